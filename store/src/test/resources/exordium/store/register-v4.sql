BEGIN TRANSACTION;
CREATE TABLE IF NOT EXISTS "flyway_schema_history" (
    "installed_rank" INT NOT NULL PRIMARY KEY,
    "version" VARCHAR(50),
    "description" VARCHAR(200) NOT NULL,
    "type" VARCHAR(20) NOT NULL,
    "script" VARCHAR(1000) NOT NULL,
    "checksum" INT,
    "installed_by" VARCHAR(100) NOT NULL,
    "installed_on" TEXT NOT NULL DEFAULT (strftime('%Y-%m-%d %H:%M:%f','now')),
    "execution_time" INT NOT NULL,
    "success" BOOLEAN NOT NULL
);
INSERT INTO flyway_schema_history VALUES(1,'1','registers','SQL','V1__registers.sql',883740265,'','2026-11-26 08:56:40.939',6,1);
INSERT INTO flyway_schema_history VALUES(2,'2','media register','SQL','V2__media_register.sql',1833732469,'','2026-11-26 08:56:40.967',7,1);
INSERT INTO flyway_schema_history VALUES(3,'3','operations','SQL','V3__operations.sql',2133322410,'','2026-11-26 08:56:40.983',3,1);
INSERT INTO flyway_schema_history VALUES(4,'4','one table of runs','SQL','V4__one_table_of_runs.sql',-926717726,'','2026-11-26 08:56:41.000',5,1);
CREATE TABLE board (
    id             TEXT PRIMARY KEY,
    name           TEXT NOT NULL,
    place          TEXT NOT NULL,
    profile        TEXT NOT NULL,
    channel        TEXT NOT NULL DEFAULT 'default' CHECK (channel IN ('default', 'latest', 'beta')),
    lightly_used   INTEGER NOT NULL DEFAULT 0 CHECK (lightly_used IN (0, 1)),
    slot_reachable INTEGER NOT NULL DEFAULT 1 CHECK (slot_reachable IN (0, 1)),
    daily_writes   INTEGER NOT NULL DEFAULT 0 CHECK (daily_writes >= 0),
    sort           INTEGER NOT NULL
);
INSERT INTO board VALUES('tide-clock','Tide clock','Hall','plover-4','default',0,1,1800000000,1);
INSERT INTO board VALUES('ticket-desk','Ticket desk','Hall','plover-4','default',0,1,5500000000,2);
INSERT INTO board VALUES('wave-tank','Wave tank','Hall','plover-5','default',0,1,3000000000,3);
INSERT INTO board VALUES('engine-room-sound','Engine-room sound','Boathouse','plover-3','default',1,1,100000000,4);
INSERT INTO board VALUES('door-counter','Door counter','Boathouse','curlew-e','default',1,1,200000000,5);
INSERT INTO board VALUES('film-loop','Film loop','Loft','plover-5','default',0,0,1000000000,6);
INSERT INTO board VALUES('oral-history-booth','Oral-history booth','Loft','plover-4','default',1,1,0,7);
INSERT INTO board VALUES('rescue-map-table','Rescue map table','Loft','dunlin-u','default',0,1,9000000000,8);
INSERT INTO board VALUES('mast-webcam','Mast webcam','Mast','plover-4','default',0,0,6200000000,9);
INSERT INTO board VALUES('store-room-spare','Store-room spare','Store','plover-5','default',0,1,500000000,10);
CREATE TABLE medium (
    id            TEXT PRIMARY KEY,
    name          TEXT NOT NULL,
    kind          TEXT NOT NULL,
    serial        TEXT NOT NULL DEFAULT '',
    bytes         INTEGER NOT NULL CHECK (bytes > 0),
    file          TEXT NOT NULL UNIQUE,
    rated_writes  INTEGER CHECK (rated_writes > 0),
    written       INTEGER NOT NULL DEFAULT 0 CHECK (written >= 0),
    place         TEXT NOT NULL DEFAULT ''
, label TEXT NOT NULL DEFAULT '', state TEXT NOT NULL DEFAULT 'here' CHECK (state IN ('here', 'lent', 'retired')), note TEXT NOT NULL DEFAULT '', since TEXT, disk_id TEXT, holds TEXT NOT NULL DEFAULT '', looked_at TEXT);
INSERT INTO medium VALUES('tide-clock-card','Tidewell 32','card-quick','TW32-0417',31914983424,'tide-clock-card.img',60000000000000,1900000000000,'Hall','M1','here','',NULL,'1c0c4a01','marshlinux 2026.10','2026-11-26T08:56:47.927749259Z');
INSERT INTO medium VALUES('ticket-desk-card','Brack 16','card-plain','BR16-2207',15931539456,'ticket-desk-card.img',24000000000000,6100000000000,'Hall','M2','here','',NULL,'1c0c4a02','marshlinux 2026.04','2026-11-26T08:56:47.943327736Z');
INSERT INTO medium VALUES('wave-tank-nvme','Kelpline 256','ssd-nvme','TW-0042-7719',256060514304,'drive:TW-0042-7719',300000000000000,2400000000000,'Hall','M3','here','',NULL,'1c0c4a03','marshlinux 2026.10','2026-11-26T08:56:47.958516593Z');
INSERT INTO medium VALUES('engine-room-card','Brack 8','card-plain','BR8-0112',7948206080,'engine-room-card.img',12000000000000,300000000000,'Boathouse','M4','here','',NULL,'1c0c4a04','marshlinux 2025.11','2026-11-26T08:56:47.973673898Z');
INSERT INTO medium VALUES('door-counter-emmc','on-board 4','emmc','EM4-7781',3909091328,'door-counter-emmc.img',8000000000000,400000000000,'Boathouse','M5','here','',NULL,'1c0c4a05','fenix-lite 2026.07','2026-11-26T08:56:47.988612053Z');
INSERT INTO medium VALUES('film-loop-nvme','Kelpline 512','ssd-nvme','KL512-0209',512110190592,'film-loop-nvme.img',600000000000000,1100000000000,'Loft','M6','here','',NULL,'1c0c4a06','marshlinux 2026.10','2026-11-26T08:56:48.005235386Z');
INSERT INTO medium VALUES('oral-history-card','Tidewell 32','card-quick','TW32-0388',31914983424,'oral-history-card.img',60000000000000,700000000000,'Loft','M7','here','',NULL,'1c0c4a07','marshlinux 2026.04','2026-11-26T08:56:48.020068640Z');
INSERT INTO medium VALUES('rescue-map-card','Tidewell 64','card-lasting','TW64-0093',63864569856,'rescue-map-card.img',180000000000000,3200000000000,'Loft','M8','here','',NULL,'1c0c4a08-0000-4000-8000-000000000000','dunlin-vm 7.2','2026-11-26T08:56:48.043430253Z');
INSERT INTO medium VALUES('mast-webcam-card','Tidewell 32','card-quick','TW32-0271',31914983424,'mast-webcam-card.img',31000000000000,29800000000000,'Mast','M9','here','',NULL,'1c0c4a09','marshlinux 2026.04','2026-11-26T08:56:48.060246684Z');
INSERT INTO medium VALUES('spare-card-32','Tidewell 32','card-quick','TW32-0502',31914983424,'spare-card-32.img',60000000000000,100000000000,'drawer','M10','here','',NULL,NULL,'nothing','2026-11-26T08:56:48.065220224Z');
INSERT INTO medium VALUES('spare-card-16','Brack 16','card-plain','BR16-2290',15931539456,'spare-card-16.img',24000000000000,1200000000000,'drawer','M11','here','',NULL,'1c0c4a11','marshlinux 2025.11','2026-11-26T08:56:48.079501496Z');
INSERT INTO medium VALUES('spare-ssd-240','Kelpline 240','ssd-sata','KS240-0018',240057409536,'spare-ssd-240.img',140000000000000,900000000000,'drawer','M12','here','',NULL,NULL,'nothing','2026-11-26T08:56:48.082123331Z');
CREATE TABLE image (
    id         TEXT PRIMARY KEY,
    title      TEXT NOT NULL,
    file       TEXT NOT NULL UNIQUE,
    container  TEXT NOT NULL,
    compressed INTEGER NOT NULL,
    bytes      INTEGER NOT NULL,
    least      INTEGER NOT NULL,
    checksum   TEXT NOT NULL CHECK (checksum IN ('AGREES', 'DIFFERS', 'NONE_KNOWN')),
    version    TEXT NOT NULL DEFAULT ''
);
INSERT INTO image VALUES('marshlinux-2026.10-lite','marshlinux 2026.10','marshlinux-2026.10-lite.img.xz','xz',172664,173015040,171966464,'AGREES','2026.10');
INSERT INTO image VALUES('marshlinux-2026.04-lite','marshlinux 2026.04','marshlinux-2026.04-lite.img.xz','xz',172664,173015040,171966464,'AGREES','2026.04');
INSERT INTO image VALUES('marshlinux-2025.11-lite-32','marshlinux 2025.11','marshlinux-2025.11-lite-32.img.xz','xz',172680,173015040,171966464,'NONE_KNOWN','2025.11');
INSERT INTO image VALUES('fenix-lite-2026.07','fenix-lite 2026.07','fenix-lite-2026.07.img.xz','xz',145608,173015040,171966464,'AGREES','2026.07');
INSERT INTO image VALUES('dunlin-vm-7.2','dunlin-vm 7.2','dunlin-vm-7.2.img.xz','xz',168720,173015040,171983360,'AGREES','7.2');
CREATE TABLE copy (
    id        INTEGER PRIMARY KEY,
    board     TEXT REFERENCES board (id),
    medium    TEXT REFERENCES medium (id),
    proven    TEXT NOT NULL,
    file      TEXT NOT NULL,
    source    INTEGER NOT NULL,
    bytes     INTEGER NOT NULL,
    sha256    TEXT NOT NULL
);
INSERT INTO copy VALUES(1,'tide-clock','tide-clock-card','2026-09-13T08:56:41.300207508Z','tide-clock/tide-clock-2026-09-13.img.zst',173015040,151394,'cb336b88c7e816c2079bfbf2436e660a77656642b5f0f8606786723f652b37c3');
INSERT INTO copy VALUES(2,'tide-clock','tide-clock-card','2026-11-14T08:56:41.300207508Z','tide-clock/tide-clock-2026-11-14.img.zst',173015040,151394,'cb336b88c7e816c2079bfbf2436e660a77656642b5f0f8606786723f652b37c3');
INSERT INTO copy VALUES(3,'ticket-desk','ticket-desk-card','2026-08-20T08:56:41.300207508Z','ticket-desk/ticket-desk-2026-08-20.img.zst',173015040,151235,'ffcc91164590b058edb43cb18930eeb7a324f68fb119ebdac32c7f8c778657f8');
INSERT INTO copy VALUES(4,'ticket-desk','ticket-desk-card','2026-09-21T08:56:41.300207508Z','ticket-desk/ticket-desk-2026-09-21.img.zst',173015040,151235,'ffcc91164590b058edb43cb18930eeb7a324f68fb119ebdac32c7f8c778657f8');
INSERT INTO copy VALUES(5,'ticket-desk','ticket-desk-card','2026-10-23T08:56:41.300207508Z','ticket-desk/ticket-desk-2026-10-23.img.zst',173015040,151235,'ffcc91164590b058edb43cb18930eeb7a324f68fb119ebdac32c7f8c778657f8');
INSERT INTO copy VALUES(6,'wave-tank','wave-tank-nvme','2026-10-26T08:56:41.300207508Z','wave-tank/wave-tank-2026-10-26.img.zst',173015040,151394,'cb336b88c7e816c2079bfbf2436e660a77656642b5f0f8606786723f652b37c3');
INSERT INTO copy VALUES(7,'wave-tank','wave-tank-nvme','2026-11-25T08:56:41.300207508Z','wave-tank/wave-tank-2026-11-25.img.zst',173015040,151394,'cb336b88c7e816c2079bfbf2436e660a77656642b5f0f8606786723f652b37c3');
INSERT INTO copy VALUES(8,'engine-room-sound','engine-room-card','2026-11-17T08:56:41.300207508Z','engine-room-sound/engine-room-sound-2026-11-17.img.zst',173015040,151396,'9af48a8e2ba730f7c03e735104bbdeec28d1abac6dcbd886419d63ce7c474681');
INSERT INTO copy VALUES(9,'door-counter','door-counter-emmc','2026-11-06T08:56:41.300207508Z','door-counter/door-counter-2026-11-06.img.zst',173015040,124957,'3f2ab5f23a50e56c1ad58666459e8fe6aaf93832d08dc917ce1e27d4a704635b');
INSERT INTO copy VALUES(10,'oral-history-booth','oral-history-card','2026-09-26T08:56:41.300207508Z','oral-history-booth/oral-history-booth-2026-09-26.img.zst',173015040,151235,'ffcc91164590b058edb43cb18930eeb7a324f68fb119ebdac32c7f8c778657f8');
INSERT INTO copy VALUES(11,'rescue-map-table','rescue-map-card','2026-11-10T08:56:41.300207508Z','rescue-map-table/rescue-map-table-2026-11-10.img.zst',173015040,147585,'144f537ebbd90a00ccbe2cb6eecdd6c2605c6919da88e24b28b4ea933569aac3');
INSERT INTO copy VALUES(12,'mast-webcam','mast-webcam-card','2026-11-21T08:56:41.300207508Z','mast-webcam/mast-webcam-2026-11-21.img.zst',173015040,151235,'ffcc91164590b058edb43cb18930eeb7a324f68fb119ebdac32c7f8c778657f8');
CREATE TABLE logbook (
    id      INTEGER PRIMARY KEY,
    at      TEXT NOT NULL,
    board   TEXT REFERENCES board (id),
    step    TEXT NOT NULL,
    kind    TEXT NOT NULL,
    text    TEXT NOT NULL,
    details TEXT
);
INSERT INTO logbook VALUES(1,'2026-10-16T08:56:41.300207508Z','tide-clock','image','write-verified','marshlinux-2026.10-lite.img.xz to Tidewell 32: every byte was read back and agrees.',NULL);
INSERT INTO logbook VALUES(2,'2026-04-10T08:56:41.300207508Z','ticket-desk','image','write-verified','marshlinux-2026.04-lite.img.xz to Brack 16: every byte was read back and agrees.',NULL);
INSERT INTO logbook VALUES(3,'2026-10-13T08:56:41.300207508Z','wave-tank','image','write-verified','marshlinux-2026.10-lite.img.xz to Kelpline 256: every byte was read back and agrees.',NULL);
INSERT INTO logbook VALUES(4,'2025-12-09T08:56:41.300207508Z','engine-room-sound','image','write-written','marshlinux-2025.11-lite-32.img.xz to Brack 8: written, not read back.',NULL);
INSERT INTO logbook VALUES(5,'2026-07-21T08:56:41.300207508Z','door-counter','image','write-verified','fenix-lite-2026.07.img.xz to on-board 4: every byte was read back and agrees.',NULL);
INSERT INTO logbook VALUES(6,'2026-11-07T08:56:41.300207508Z','film-loop','image','write-verified','marshlinux-2026.10-lite.img.xz to Kelpline 512: every byte was read back and agrees.',NULL);
INSERT INTO logbook VALUES(7,'2026-05-09T08:56:41.300207508Z','oral-history-booth','image','write-verified','marshlinux-2026.04-lite.img.xz to Tidewell 32: every byte was read back and agrees.',NULL);
INSERT INTO logbook VALUES(8,'2026-08-28T08:56:41.300207508Z','rescue-map-table','image','write-verified','dunlin-vm-7.2.img.xz to Tidewell 64: every byte was read back and agrees.',NULL);
INSERT INTO logbook VALUES(9,'2026-04-26T08:56:41.300207508Z','mast-webcam','image','write-written','marshlinux-2026.04-lite.img.xz to Tidewell 32: written, not read back.',NULL);
INSERT INTO logbook VALUES(10,'2025-12-10T08:56:41.300207508Z','engine-room-sound','rehearsal','start-seen','Engine-room sound: started from card, root from card, after 41.0 s.',NULL);
INSERT INTO logbook VALUES(11,'2025-12-31T08:56:41.300207508Z','mast-webcam','storage','supply-changed','Mast webcam: fed over Ethernet, class af; the adapter stays in the drawer.',NULL);
INSERT INTO logbook VALUES(12,'2026-02-02T08:56:41.300207508Z','ticket-desk','firmware','staged-lost','Ticket desk: Release 2025-09-16 was lost: the board was switched off instead of restarted.',NULL);
INSERT INTO logbook VALUES(13,'2026-04-11T08:56:41.300207508Z','ticket-desk','rehearsal','start-seen','Ticket desk: started from card, root from card, after 24.0 s.',NULL);
INSERT INTO logbook VALUES(14,'2026-05-10T08:56:41.300207508Z','oral-history-booth','rehearsal','start-seen','Oral-history booth: started from card, root from card, after 23.0 s.',NULL);
INSERT INTO logbook VALUES(15,'2026-05-11T08:56:41.300207508Z','oral-history-booth','storage','overlay-on','Oral-history booth: read-only overlay switched on; nothing is recorded there.',NULL);
INSERT INTO logbook VALUES(16,'2026-07-22T08:56:41.300207508Z','door-counter','rehearsal','start-seen','Door counter: started from emmc, root from emmc, after 18.0 s.',NULL);
INSERT INTO logbook VALUES(17,'2026-08-30T08:56:41.300207508Z','rescue-map-table','order','order-changed','Rescue map table: network entries are first; the start takes minutes.',NULL);
INSERT INTO logbook VALUES(18,'2026-09-17T08:56:41.300207508Z','wave-tank','firmware','firmware-updated','Wave tank: Runs 2026-09-02 since the restart, read back from the chip.',NULL);
INSERT INTO logbook VALUES(19,'2026-10-14T08:56:41.300207508Z','wave-tank','rehearsal','start-seen','Wave tank: started from nvme, root from nvme, after 14.0 s.',NULL);
INSERT INTO logbook VALUES(20,'2026-10-17T08:56:41.300207508Z','tide-clock','rehearsal','start-seen','Tide clock: started from card, root from card, after 21.0 s.',NULL);
INSERT INTO logbook VALUES(21,'2026-11-08T08:56:41.300207508Z','film-loop','storage','card-removed','Film loop: card taken out, case closed again; not started since.',NULL);
INSERT INTO logbook VALUES(22,'2026-11-22T08:56:41.300207508Z','mast-webcam','storage','read-errors','Mast webcam: read errors twice this week.',NULL);
INSERT INTO logbook VALUES(23,'2026-09-13T08:56:41.300207508Z','tide-clock','copies','copy-proven','Tide clock: copy of Tidewell 32 proven.',NULL);
INSERT INTO logbook VALUES(24,'2026-11-14T08:56:41.300207508Z','tide-clock','copies','copy-proven','Tide clock: copy of Tidewell 32 proven.',NULL);
INSERT INTO logbook VALUES(25,'2026-08-20T08:56:41.300207508Z','ticket-desk','copies','copy-proven','Ticket desk: copy of Brack 16 proven.',NULL);
INSERT INTO logbook VALUES(26,'2026-09-21T08:56:41.300207508Z','ticket-desk','copies','copy-proven','Ticket desk: copy of Brack 16 proven.',NULL);
INSERT INTO logbook VALUES(27,'2026-10-23T08:56:41.300207508Z','ticket-desk','copies','copy-proven','Ticket desk: copy of Brack 16 proven.',NULL);
INSERT INTO logbook VALUES(28,'2026-10-26T08:56:41.300207508Z','wave-tank','copies','copy-proven','Wave tank: copy of Kelpline 256 proven.',NULL);
INSERT INTO logbook VALUES(29,'2026-11-25T08:56:41.300207508Z','wave-tank','copies','copy-proven','Wave tank: copy of Kelpline 256 proven.',NULL);
INSERT INTO logbook VALUES(30,'2026-11-17T08:56:41.300207508Z','engine-room-sound','copies','copy-proven','Engine-room sound: copy of Brack 8 proven.',NULL);
INSERT INTO logbook VALUES(31,'2026-11-06T08:56:41.300207508Z','door-counter','copies','copy-proven','Door counter: copy of on-board 4 proven.',NULL);
INSERT INTO logbook VALUES(32,'2026-09-26T08:56:41.300207508Z','oral-history-booth','copies','copy-proven','Oral-history booth: copy of Tidewell 32 proven.',NULL);
INSERT INTO logbook VALUES(33,'2026-11-10T08:56:41.300207508Z','rescue-map-table','copies','copy-proven','Rescue map table: copy of Tidewell 64 proven.',NULL);
INSERT INTO logbook VALUES(34,'2026-11-21T08:56:41.300207508Z','mast-webcam','copies','copy-proven','Mast webcam: copy of Tidewell 32 proven.',NULL);
CREATE TABLE setting (
    key   TEXT PRIMARY KEY,
    value TEXT NOT NULL
);
INSERT INTO setting VALUES('name','Gannet Point');
CREATE TABLE measurement (
    id     INTEGER PRIMARY KEY,
    medium TEXT NOT NULL REFERENCES medium (id),
    at     TEXT NOT NULL,
    kind   TEXT NOT NULL CHECK (kind IN ('write', 'read')),
    rate   REAL NOT NULL CHECK (rate > 0)
);
INSERT INTO measurement VALUES(1,'tide-clock-card','2026-03-30T08:56:41.300207508Z','write',32980000.0);
INSERT INTO measurement VALUES(2,'tide-clock-card','2026-03-30T08:56:41.300207508Z','read',89240000.0);
INSERT INTO measurement VALUES(3,'tide-clock-card','2026-07-08T08:56:41.300207508Z','write',32791583.333333332091);
INSERT INTO measurement VALUES(4,'tide-clock-card','2026-07-08T08:56:41.300207508Z','read',88730166.666666671635);
INSERT INTO measurement VALUES(5,'tide-clock-card','2026-10-16T08:56:41.300207508Z','write',32603166.666666664184);
INSERT INTO measurement VALUES(6,'tide-clock-card','2026-10-16T08:56:41.300207508Z','read',88220333.333333328367);
INSERT INTO measurement VALUES(7,'ticket-desk-card','2025-09-22T08:56:41.300207508Z','write',11640000.0);
INSERT INTO measurement VALUES(8,'ticket-desk-card','2025-09-22T08:56:41.300207508Z','read',38800000.0);
INSERT INTO measurement VALUES(9,'ticket-desk-card','2025-12-31T08:56:41.300207508Z','write',11106250.0);
INSERT INTO measurement VALUES(10,'ticket-desk-card','2025-12-31T08:56:41.300207508Z','read',37020833.333333335816);
INSERT INTO measurement VALUES(11,'ticket-desk-card','2026-04-10T08:56:41.300207508Z','write',10572500.0);
INSERT INTO measurement VALUES(12,'ticket-desk-card','2026-04-10T08:56:41.300207508Z','read',35241666.666666664183);
INSERT INTO measurement VALUES(13,'wave-tank-nvme','2026-03-27T08:56:41.300207508Z','write',407400000.0);
INSERT INTO measurement VALUES(14,'wave-tank-nvme','2026-03-27T08:56:41.300207508Z','read',417100000.0);
INSERT INTO measurement VALUES(15,'wave-tank-nvme','2026-07-05T08:56:41.300207508Z','write',406812000.0);
INSERT INTO measurement VALUES(16,'wave-tank-nvme','2026-07-05T08:56:41.300207508Z','read',416498000.0);
INSERT INTO measurement VALUES(17,'wave-tank-nvme','2026-10-13T08:56:41.300207508Z','write',406224000.0);
INSERT INTO measurement VALUES(18,'wave-tank-nvme','2026-10-13T08:56:41.300207508Z','read',415896000.0);
INSERT INTO measurement VALUES(19,'engine-room-card','2025-05-23T08:56:41.300207508Z','write',9700000.0);
INSERT INTO measurement VALUES(20,'engine-room-card','2025-05-23T08:56:41.300207508Z','read',19400000.0);
INSERT INTO measurement VALUES(21,'engine-room-card','2025-08-31T08:56:41.300207508Z','write',9656250.0);
INSERT INTO measurement VALUES(22,'engine-room-card','2025-08-31T08:56:41.300207508Z','read',19312500.0);
INSERT INTO measurement VALUES(23,'engine-room-card','2025-12-09T08:56:41.300207508Z','write',9612500.0);
INSERT INTO measurement VALUES(24,'engine-room-card','2025-12-09T08:56:41.300207508Z','read',19225000.0);
INSERT INTO measurement VALUES(25,'door-counter-emmc','2026-01-02T08:56:41.300207508Z','write',29100000.0);
INSERT INTO measurement VALUES(26,'door-counter-emmc','2026-01-02T08:56:41.300207508Z','read',48500000.0);
INSERT INTO measurement VALUES(27,'door-counter-emmc','2026-04-12T08:56:41.300207508Z','write',28837499.999999996274);
INSERT INTO measurement VALUES(28,'door-counter-emmc','2026-04-12T08:56:41.300207508Z','read',48062500.0);
INSERT INTO measurement VALUES(29,'door-counter-emmc','2026-07-21T08:56:41.300207508Z','write',28575000.0);
INSERT INTO measurement VALUES(30,'door-counter-emmc','2026-07-21T08:56:41.300207508Z','read',47625000.0);
INSERT INTO measurement VALUES(31,'film-loop-nvme','2026-04-21T08:56:41.300207508Z','write',417100000.0);
INSERT INTO measurement VALUES(32,'film-loop-nvme','2026-04-21T08:56:41.300207508Z','read',417100000.0);
INSERT INTO measurement VALUES(33,'film-loop-nvme','2026-07-30T08:56:41.300207508Z','write',416962041.66666668653);
INSERT INTO measurement VALUES(34,'film-loop-nvme','2026-07-30T08:56:41.300207508Z','read',416962041.66666668653);
INSERT INTO measurement VALUES(35,'film-loop-nvme','2026-11-07T08:56:41.300207508Z','write',416824083.33333331347);
INSERT INTO measurement VALUES(36,'film-loop-nvme','2026-11-07T08:56:41.300207508Z','read',416824083.33333331347);
INSERT INTO measurement VALUES(37,'oral-history-card','2025-10-21T08:56:41.300207508Z','write',32980000.0);
INSERT INTO measurement VALUES(38,'oral-history-card','2025-10-21T08:56:41.300207508Z','read',89240000.0);
INSERT INTO measurement VALUES(39,'oral-history-card','2026-01-29T08:56:41.300207508Z','write',32910583.333333332091);
INSERT INTO measurement VALUES(40,'oral-history-card','2026-01-29T08:56:41.300207508Z','read',89052166.666666656728);
INSERT INTO measurement VALUES(41,'oral-history-card','2026-05-09T08:56:41.300207508Z','write',32841166.666666664183);
INSERT INTO measurement VALUES(42,'oral-history-card','2026-05-09T08:56:41.300207508Z','read',88864333.333333328365);
INSERT INTO measurement VALUES(43,'rescue-map-card','2026-02-09T08:56:41.300207508Z','write',36860000.0);
INSERT INTO measurement VALUES(44,'rescue-map-card','2026-02-09T08:56:41.300207508Z','read',48500000.0);
INSERT INTO measurement VALUES(45,'rescue-map-card','2026-05-20T08:56:41.300207508Z','write',36741777.777777776122);
INSERT INTO measurement VALUES(46,'rescue-map-card','2026-05-20T08:56:41.300207508Z','read',48344444.444444447757);
INSERT INTO measurement VALUES(47,'rescue-map-card','2026-08-28T08:56:41.300207508Z','write',36623555.555555552243);
INSERT INTO measurement VALUES(48,'rescue-map-card','2026-08-28T08:56:41.300207508Z','read',48188888.888888888059);
INSERT INTO measurement VALUES(49,'mast-webcam-card','2025-10-08T08:56:41.300207508Z','write',29100000.0);
INSERT INTO measurement VALUES(50,'mast-webcam-card','2025-10-08T08:56:41.300207508Z','read',48500000.0);
INSERT INTO measurement VALUES(51,'mast-webcam-card','2026-01-16T08:56:41.300207508Z','write',24053225.80645161122);
INSERT INTO measurement VALUES(52,'mast-webcam-card','2026-01-16T08:56:41.300207508Z','read',40088709.677419357003);
INSERT INTO measurement VALUES(53,'mast-webcam-card','2026-04-26T08:56:41.300207508Z','write',19006451.612903226167);
INSERT INTO measurement VALUES(54,'mast-webcam-card','2026-04-26T08:56:41.300207508Z','read',31677419.354838710278);
CREATE TABLE fault (
    id     INTEGER PRIMARY KEY,
    medium TEXT NOT NULL REFERENCES medium (id),
    at     TEXT NOT NULL,
    text   TEXT NOT NULL
);
INSERT INTO fault VALUES(1,'mast-webcam-card','2026-11-22T08:56:41.300207508Z','Mast webcam: read errors twice this week.');
CREATE TABLE board_role (
    board TEXT PRIMARY KEY REFERENCES board (id),
    role  TEXT NOT NULL
);
INSERT INTO board_role VALUES('mast-webcam','{"system":"lite","data":0,"growth":0,"habit":"logs","dailyWrites":6200000000,"years":5,"lostDays":30,"quickStart":false,"budget":0.0,"portsNeeded":0,"slotReachable":false,"overlay":false,"logsInMemory":false,"server":false,"hoursADay":24.0,"place":"roof"}');
CREATE TABLE known_drive (
    name    TEXT NOT NULL,
    profile TEXT NOT NULL,
    works   INTEGER NOT NULL CHECK (works IN (0, 1)),
    note    TEXT NOT NULL DEFAULT '',
    PRIMARY KEY (name, profile)
);
CREATE TABLE IF NOT EXISTS "operation" (
    id            INTEGER PRIMARY KEY AUTOINCREMENT,
    kind          TEXT NOT NULL,
    started       TEXT NOT NULL,
    ended         TEXT,
    board         TEXT REFERENCES board (id),
    medium        TEXT REFERENCES medium (id),
    target        TEXT NOT NULL,
    target_key    TEXT NOT NULL DEFAULT '',
    touches       INTEGER NOT NULL DEFAULT 0 CHECK (touches IN (0, 1)),
    ending        TEXT NOT NULL DEFAULT 'running',
    process       INTEGER NOT NULL DEFAULT 0,
    process_start TEXT NOT NULL DEFAULT '',
    words         TEXT NOT NULL DEFAULT '',
    image         TEXT,
    report        TEXT
);
INSERT INTO operation VALUES(1,'write','2026-10-16T08:56:41.300207508Z','2026-10-16T08:56:41.300207508Z','tide-clock','tide-clock-card','tide-clock-card.img','',1,'verified',0,'','','marshlinux-2026.10-lite.img.xz',NULL);
INSERT INTO operation VALUES(2,'write','2026-04-10T08:56:41.300207508Z','2026-04-10T08:56:41.300207508Z','ticket-desk','ticket-desk-card','ticket-desk-card.img','',1,'verified',0,'','','marshlinux-2026.04-lite.img.xz',NULL);
INSERT INTO operation VALUES(3,'write','2026-10-13T08:56:41.300207508Z','2026-10-13T08:56:41.300207508Z','wave-tank','wave-tank-nvme','wave-tank-nvme.img','',1,'verified',0,'','','marshlinux-2026.10-lite.img.xz',NULL);
INSERT INTO operation VALUES(4,'write','2025-12-09T08:56:41.300207508Z','2025-12-09T08:56:41.300207508Z','engine-room-sound','engine-room-card','engine-room-card.img','',1,'written',0,'','','marshlinux-2025.11-lite-32.img.xz',NULL);
INSERT INTO operation VALUES(5,'write','2026-07-21T08:56:41.300207508Z','2026-07-21T08:56:41.300207508Z','door-counter','door-counter-emmc','door-counter-emmc.img','',1,'verified',0,'','','fenix-lite-2026.07.img.xz',NULL);
INSERT INTO operation VALUES(6,'write','2026-11-07T08:56:41.300207508Z','2026-11-07T08:56:41.300207508Z','film-loop','film-loop-nvme','film-loop-nvme.img','',1,'verified',0,'','','marshlinux-2026.10-lite.img.xz',NULL);
INSERT INTO operation VALUES(7,'write','2026-05-09T08:56:41.300207508Z','2026-05-09T08:56:41.300207508Z','oral-history-booth','oral-history-card','oral-history-card.img','',1,'verified',0,'','','marshlinux-2026.04-lite.img.xz',NULL);
INSERT INTO operation VALUES(8,'write','2026-08-28T08:56:41.300207508Z','2026-08-28T08:56:41.300207508Z','rescue-map-table','rescue-map-card','rescue-map-card.img','',1,'verified',0,'','','dunlin-vm-7.2.img.xz',NULL);
INSERT INTO operation VALUES(9,'write','2026-04-26T08:56:41.300207508Z','2026-04-26T08:56:41.300207508Z','mast-webcam','mast-webcam-card','mast-webcam-card.img','',1,'written',0,'','','marshlinux-2026.04-lite.img.xz',NULL);
DELETE FROM sqlite_sequence;
INSERT INTO sqlite_sequence VALUES('operation',9);
CREATE INDEX "flyway_schema_history_s_idx" ON "flyway_schema_history" ("success");
CREATE INDEX logbook_at ON logbook (at);
CREATE INDEX logbook_board ON logbook (board, at);
CREATE TRIGGER logbook_no_update BEFORE UPDATE ON logbook
BEGIN
    SELECT RAISE(ABORT, 'the logbook is append-only');
END;
CREATE TRIGGER logbook_no_delete BEFORE DELETE ON logbook
BEGIN
    SELECT RAISE(ABORT, 'the logbook is append-only');
END;
CREATE INDEX measurement_medium ON measurement (medium, at);
CREATE INDEX operation_medium ON operation (medium, started);
CREATE INDEX operation_running ON operation (ending) WHERE ending = 'running';
CREATE INDEX copy_board ON copy (board, proven);
COMMIT;
