BEGIN TRANSACTION;
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
INSERT INTO "board" VALUES('tide-clock','Tide clock','Hall','plover-4','default',0,1,1800000000,1);
INSERT INTO "board" VALUES('ticket-desk','Ticket desk','Hall','plover-4','default',0,1,5500000000,2);
INSERT INTO "board" VALUES('wave-tank','Wave tank','Hall','plover-5','default',0,1,3000000000,3);
INSERT INTO "board" VALUES('engine-room-sound','Engine-room sound','Boathouse','plover-3','default',1,1,100000000,4);
INSERT INTO "board" VALUES('door-counter','Door counter','Boathouse','curlew-e','default',1,1,200000000,5);
INSERT INTO "board" VALUES('film-loop','Film loop','Loft','plover-5','default',0,0,1000000000,6);
INSERT INTO "board" VALUES('oral-history-booth','Oral-history booth','Loft','plover-4','default',1,1,0,7);
INSERT INTO "board" VALUES('rescue-map-table','Rescue map table','Loft','dunlin-u','default',0,1,9000000000,8);
INSERT INTO "board" VALUES('mast-webcam','Mast webcam','Mast','plover-4','default',0,0,6200000000,9);
INSERT INTO "board" VALUES('store-room-spare','Store-room spare','Store','plover-5','default',0,1,500000000,10);
CREATE TABLE board_role (
    board TEXT PRIMARY KEY REFERENCES board (id),
    role  TEXT NOT NULL
);
INSERT INTO "board_role" VALUES('mast-webcam','{"system":"lite","data":0,"growth":0,"habit":"logs","dailyWrites":6200000000,"years":5,"lostDays":30,"quickStart":false,"budget":0.0,"portsNeeded":0,"slotReachable":false,"overlay":false,"logsInMemory":false,"server":false,"hoursADay":24.0,"place":"roof"}');
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
INSERT INTO "copy" VALUES(1,'tide-clock','tide-clock-card','2026-09-13T02:58:50.206619026Z','tide-clock/tide-clock-2026-09-13.img.zst',173015040,151394,'cb336b88c7e816c2079bfbf2436e660a77656642b5f0f8606786723f652b37c3');
INSERT INTO "copy" VALUES(2,'tide-clock','tide-clock-card','2026-11-14T02:58:50.206619026Z','tide-clock/tide-clock-2026-11-14.img.zst',173015040,151394,'cb336b88c7e816c2079bfbf2436e660a77656642b5f0f8606786723f652b37c3');
INSERT INTO "copy" VALUES(3,'ticket-desk','ticket-desk-card','2026-08-20T02:58:50.206619026Z','ticket-desk/ticket-desk-2026-08-20.img.zst',173015040,151235,'ffcc91164590b058edb43cb18930eeb7a324f68fb119ebdac32c7f8c778657f8');
INSERT INTO "copy" VALUES(4,'ticket-desk','ticket-desk-card','2026-09-21T02:58:50.206619026Z','ticket-desk/ticket-desk-2026-09-21.img.zst',173015040,151235,'ffcc91164590b058edb43cb18930eeb7a324f68fb119ebdac32c7f8c778657f8');
INSERT INTO "copy" VALUES(5,'ticket-desk','ticket-desk-card','2026-10-23T02:58:50.206619026Z','ticket-desk/ticket-desk-2026-10-23.img.zst',173015040,151235,'ffcc91164590b058edb43cb18930eeb7a324f68fb119ebdac32c7f8c778657f8');
INSERT INTO "copy" VALUES(6,'wave-tank','wave-tank-nvme','2026-10-26T02:58:50.206619026Z','wave-tank/wave-tank-2026-10-26.img.zst',173015040,151394,'cb336b88c7e816c2079bfbf2436e660a77656642b5f0f8606786723f652b37c3');
INSERT INTO "copy" VALUES(7,'wave-tank','wave-tank-nvme','2026-11-25T02:58:50.206619026Z','wave-tank/wave-tank-2026-11-25.img.zst',173015040,151394,'cb336b88c7e816c2079bfbf2436e660a77656642b5f0f8606786723f652b37c3');
INSERT INTO "copy" VALUES(8,'engine-room-sound','engine-room-card','2026-11-17T02:58:50.206619026Z','engine-room-sound/engine-room-sound-2026-11-17.img.zst',173015040,151396,'9af48a8e2ba730f7c03e735104bbdeec28d1abac6dcbd886419d63ce7c474681');
INSERT INTO "copy" VALUES(9,'door-counter','door-counter-emmc','2026-11-06T02:58:50.206619026Z','door-counter/door-counter-2026-11-06.img.zst',173015040,124957,'3f2ab5f23a50e56c1ad58666459e8fe6aaf93832d08dc917ce1e27d4a704635b');
INSERT INTO "copy" VALUES(10,'oral-history-booth','oral-history-card','2026-09-26T02:58:50.206619026Z','oral-history-booth/oral-history-booth-2026-09-26.img.zst',173015040,151235,'ffcc91164590b058edb43cb18930eeb7a324f68fb119ebdac32c7f8c778657f8');
INSERT INTO "copy" VALUES(11,'rescue-map-table','rescue-map-card','2026-11-10T02:58:50.206619026Z','rescue-map-table/rescue-map-table-2026-11-10.img.zst',173015040,147585,'144f537ebbd90a00ccbe2cb6eecdd6c2605c6919da88e24b28b4ea933569aac3');
INSERT INTO "copy" VALUES(12,'mast-webcam','mast-webcam-card','2026-11-21T02:58:50.206619026Z','mast-webcam/mast-webcam-2026-11-21.img.zst',173015040,151235,'ffcc91164590b058edb43cb18930eeb7a324f68fb119ebdac32c7f8c778657f8');
CREATE TABLE fault (
    id     INTEGER PRIMARY KEY,
    medium TEXT NOT NULL REFERENCES medium (id),
    at     TEXT NOT NULL,
    text   TEXT NOT NULL
);
INSERT INTO "fault" VALUES(1,'mast-webcam-card','2026-11-22T02:58:50.206619026Z','Mast webcam: read errors twice this week.');
CREATE TABLE "flyway_schema_history" (
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
INSERT INTO "flyway_schema_history" VALUES(1,'1','registers','SQL','V1__registers.sql',883740265,'','2026-11-26 02:58:49.382',8,1);
INSERT INTO "flyway_schema_history" VALUES(2,'2','media register','SQL','V2__media_register.sql',1833732469,'','2026-11-26 02:58:49.425',11,1);
INSERT INTO "flyway_schema_history" VALUES(3,'3','operations','SQL','V3__operations.sql',2133322410,'','2026-11-26 02:58:49.451',3,1);
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
INSERT INTO "image" VALUES('marshlinux-2026.10-lite','marshlinux 2026.10','marshlinux-2026.10-lite.img.xz','xz',172664,173015040,171966464,'AGREES','2026.10');
INSERT INTO "image" VALUES('marshlinux-2026.04-lite','marshlinux 2026.04','marshlinux-2026.04-lite.img.xz','xz',172664,173015040,171966464,'AGREES','2026.04');
INSERT INTO "image" VALUES('marshlinux-2025.11-lite-32','marshlinux 2025.11','marshlinux-2025.11-lite-32.img.xz','xz',172680,173015040,171966464,'NONE_KNOWN','2025.11');
INSERT INTO "image" VALUES('fenix-lite-2026.07','fenix-lite 2026.07','fenix-lite-2026.07.img.xz','xz',145608,173015040,171966464,'AGREES','2026.07');
INSERT INTO "image" VALUES('dunlin-vm-7.2','dunlin-vm 7.2','dunlin-vm-7.2.img.xz','xz',168720,173015040,171983360,'AGREES','7.2');
CREATE TABLE known_drive (
    name    TEXT NOT NULL,
    profile TEXT NOT NULL,
    works   INTEGER NOT NULL CHECK (works IN (0, 1)),
    note    TEXT NOT NULL DEFAULT '',
    PRIMARY KEY (name, profile)
);
CREATE TABLE logbook (
    id      INTEGER PRIMARY KEY,
    at      TEXT NOT NULL,
    board   TEXT REFERENCES board (id),
    step    TEXT NOT NULL,
    kind    TEXT NOT NULL,
    text    TEXT NOT NULL,
    details TEXT
);
INSERT INTO "logbook" VALUES(1,'2026-10-16T02:58:50.206619026Z','tide-clock','image','write-verified','marshlinux-2026.10-lite.img.xz to Tidewell 32: every byte was read back and agrees.',NULL);
INSERT INTO "logbook" VALUES(6,'2026-11-07T02:58:50.206619026Z','film-loop','image','write-verified','marshlinux-2026.10-lite.img.xz to Kelpline 512: every byte was read back and agrees.',NULL);
INSERT INTO "logbook" VALUES(11,'2025-12-31T02:58:50.206619026Z','mast-webcam','storage','supply-changed','Mast webcam: fed over Ethernet, class af; the adapter stays in the drawer.',NULL);
INSERT INTO "logbook" VALUES(16,'2026-07-22T02:58:50.206619026Z','door-counter','rehearsal','start-seen','Door counter: started from emmc, root from emmc, after 18.0 s.',NULL);
INSERT INTO "logbook" VALUES(21,'2026-11-08T02:58:50.206619026Z','film-loop','storage','card-removed','Film loop: card taken out, case closed again; not started since.',NULL);
INSERT INTO "logbook" VALUES(26,'2026-09-21T02:58:50.206619026Z','ticket-desk','copies','copy-proven','Ticket desk: copy of Brack 16 proven.',NULL);
INSERT INTO "logbook" VALUES(31,'2026-11-06T02:58:50.206619026Z','door-counter','copies','copy-proven','Door counter: copy of on-board 4 proven.',NULL);
CREATE TABLE measurement (
    id     INTEGER PRIMARY KEY,
    medium TEXT NOT NULL REFERENCES medium (id),
    at     TEXT NOT NULL,
    kind   TEXT NOT NULL CHECK (kind IN ('write', 'read')),
    rate   REAL NOT NULL CHECK (rate > 0)
);
INSERT INTO "measurement" VALUES(1,'tide-clock-card','2026-03-30T02:58:50.206619026Z','write',32980000.0);
INSERT INTO "measurement" VALUES(5,'tide-clock-card','2026-10-16T02:58:50.206619026Z','write',3.26031666666666641841e+07);
INSERT INTO "measurement" VALUES(9,'ticket-desk-card','2025-12-31T02:58:50.206619026Z','write',11106250.0);
INSERT INTO "measurement" VALUES(13,'wave-tank-nvme','2026-03-27T02:58:50.206619026Z','write',407400000.0);
INSERT INTO "measurement" VALUES(17,'wave-tank-nvme','2026-10-13T02:58:50.206619026Z','write',406224000.0);
INSERT INTO "measurement" VALUES(21,'engine-room-card','2025-08-31T02:58:50.206619026Z','write',9656250.0);
INSERT INTO "measurement" VALUES(25,'door-counter-emmc','2026-01-02T02:58:50.206619026Z','write',29100000.0);
INSERT INTO "measurement" VALUES(29,'door-counter-emmc','2026-07-21T02:58:50.206619026Z','write',28575000.0);
INSERT INTO "measurement" VALUES(33,'film-loop-nvme','2026-07-30T02:58:50.206619026Z','write',4.16962041666666686536e+08);
INSERT INTO "measurement" VALUES(37,'oral-history-card','2025-10-21T02:58:50.206619026Z','write',32980000.0);
INSERT INTO "measurement" VALUES(41,'oral-history-card','2026-05-09T02:58:50.206619026Z','write',3.28411666666666641838e+07);
INSERT INTO "measurement" VALUES(45,'rescue-map-card','2026-05-20T02:58:50.206619026Z','write',3.67417777777777761227e+07);
INSERT INTO "measurement" VALUES(49,'mast-webcam-card','2025-10-08T02:58:50.206619026Z','write',29100000.0);
INSERT INTO "measurement" VALUES(53,'mast-webcam-card','2026-04-26T02:58:50.206619026Z','write',1.90064516129032261672e+07);
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
INSERT INTO "medium" VALUES('tide-clock-card','Tidewell 32','card-quick','TW32-0417',31914983424,'tide-clock-card.img',60000000000000,1900000000000,'Hall','M1','here','',NULL,'1c0c4a01','marshlinux 2026.10','2026-11-26T02:59:05.386939296Z');
INSERT INTO "medium" VALUES('ticket-desk-card','Brack 16','card-plain','BR16-2207',15931539456,'ticket-desk-card.img',24000000000000,6100000000000,'Hall','M2','here','',NULL,'1c0c4a02','marshlinux 2026.04','2026-11-26T02:59:05.438052612Z');
INSERT INTO "medium" VALUES('wave-tank-nvme','Kelpline 256','ssd-nvme','KL256-0031',256060514304,'wave-tank-nvme.img',300000000000000,2400000000000,'Hall','M3','here','',NULL,'1c0c4a03','marshlinux 2026.10','2026-11-26T02:59:05.473369207Z');
INSERT INTO "medium" VALUES('engine-room-card','Brack 8','card-plain','BR8-0112',7948206080,'engine-room-card.img',12000000000000,300000000000,'Boathouse','M4','here','',NULL,'1c0c4a04','marshlinux 2025.11','2026-11-26T02:59:05.516178210Z');
INSERT INTO "medium" VALUES('door-counter-emmc','on-board 4','emmc','EM4-7781',3909091328,'door-counter-emmc.img',8000000000000,400000000000,'Boathouse','M5','here','',NULL,'1c0c4a05','fenix-lite 2026.07','2026-11-26T02:59:05.554810134Z');
INSERT INTO "medium" VALUES('film-loop-nvme','Kelpline 512','ssd-nvme','KL512-0209',512110190592,'film-loop-nvme.img',600000000000000,1100000000000,'Loft','M6','here','',NULL,'1c0c4a06','marshlinux 2026.10','2026-11-26T02:59:05.595006719Z');
INSERT INTO "medium" VALUES('oral-history-card','Tidewell 32','card-quick','TW32-0388',31914983424,'oral-history-card.img',60000000000000,700000000000,'Loft','M7','here','',NULL,'1c0c4a07','marshlinux 2026.04','2026-11-26T02:59:05.636010054Z');
INSERT INTO "medium" VALUES('rescue-map-card','Tidewell 64','card-lasting','TW64-0093',63864569856,'rescue-map-card.img',180000000000000,3200000000000,'Loft','M8','here','',NULL,'1c0c4a08-0000-4000-8000-000000000000','dunlin-vm 7.2','2026-11-26T02:59:05.693971748Z');
INSERT INTO "medium" VALUES('mast-webcam-card','Tidewell 32','card-quick','TW32-0271',31914983424,'mast-webcam-card.img',31000000000000,29800000000000,'Mast','M9','here','',NULL,'1c0c4a09','marshlinux 2026.04','2026-11-26T02:59:05.732621093Z');
INSERT INTO "medium" VALUES('spare-card-32','Tidewell 32','card-quick','TW32-0502',31914983424,'spare-card-32.img',60000000000000,100000000000,'drawer','M10','here','',NULL,NULL,'nothing','2026-11-26T02:59:05.757371229Z');
INSERT INTO "medium" VALUES('spare-card-16','Brack 16','card-plain','BR16-2290',15931539456,'spare-card-16.img',24000000000000,1200000000000,'drawer','M11','here','',NULL,'1c0c4a11','marshlinux 2025.11','2026-11-26T02:59:05.795841800Z');
INSERT INTO "medium" VALUES('spare-ssd-240','Kelpline 240','ssd-sata','KS240-0018',240057409536,'spare-ssd-240.img',140000000000000,900000000000,'drawer','M12','here','',NULL,NULL,'nothing','2026-11-26T02:59:05.819259485Z');
CREATE TABLE operation (
    id            INTEGER PRIMARY KEY,
    kind          TEXT NOT NULL,
    started       TEXT NOT NULL,
    ended         TEXT,
    board         TEXT REFERENCES board (id),
    medium        TEXT REFERENCES medium (id),
    target        TEXT NOT NULL,
    target_key    TEXT NOT NULL,
    touches       INTEGER NOT NULL DEFAULT 0 CHECK (touches IN (0, 1)),
    ending        TEXT NOT NULL DEFAULT 'running',
    process       INTEGER NOT NULL,
    process_start TEXT NOT NULL,
    words         TEXT NOT NULL DEFAULT ''
);
INSERT INTO "operation" VALUES(1,'grow','2026-11-20T10:00:00Z','2026-11-20T10:00:02Z',NULL,'door-counter-emmc','tide-clock-card.img','/drives/tide-clock-card.img',1,'done',0,'','grown');
INSERT INTO "operation" VALUES(2,'clear','2026-11-21T10:00:00Z',NULL,NULL,'door-counter-emmc','tide-clock-card.img','/drives/tide-clock-card.img',1,'running',999999999,'long ago','');
CREATE TABLE setting (
    key   TEXT PRIMARY KEY,
    value TEXT NOT NULL
);
INSERT INTO "setting" VALUES('name','Gannet Point');
INSERT INTO "setting" VALUES('copy-days','14');
CREATE TABLE write_run (
    id        INTEGER PRIMARY KEY,
    started   TEXT NOT NULL,
    ended     TEXT,
    board     TEXT REFERENCES board (id),
    medium    TEXT REFERENCES medium (id),
    target    TEXT NOT NULL,
    image     TEXT NOT NULL,
    ending    TEXT NOT NULL,
    process   INTEGER NOT NULL DEFAULT 0,
    report    TEXT
, target_key TEXT NOT NULL DEFAULT '', process_start TEXT NOT NULL DEFAULT '');
INSERT INTO "write_run" VALUES(1,'2026-10-16T02:58:50.206619026Z','2026-10-16T02:58:50.206619026Z','tide-clock','tide-clock-card','tide-clock-card.img','marshlinux-2026.10-lite.img.xz','verified',0,NULL,'','');
INSERT INTO "write_run" VALUES(2,'2026-04-10T02:58:50.206619026Z','2026-04-10T02:58:50.206619026Z','ticket-desk','ticket-desk-card','ticket-desk-card.img','marshlinux-2026.04-lite.img.xz','verified',0,NULL,'','');
INSERT INTO "write_run" VALUES(3,'2026-10-13T02:58:50.206619026Z','2026-10-13T02:58:50.206619026Z','wave-tank','wave-tank-nvme','wave-tank-nvme.img','marshlinux-2026.10-lite.img.xz','verified',0,NULL,'','');
INSERT INTO "write_run" VALUES(4,'2025-12-09T02:58:50.206619026Z','2025-12-09T02:58:50.206619026Z','engine-room-sound','engine-room-card','engine-room-card.img','marshlinux-2025.11-lite-32.img.xz','written',0,NULL,'','');
INSERT INTO "write_run" VALUES(5,'2026-07-21T02:58:50.206619026Z','2026-07-21T02:58:50.206619026Z','door-counter','door-counter-emmc','door-counter-emmc.img','fenix-lite-2026.07.img.xz','verified',0,NULL,'','');
INSERT INTO "write_run" VALUES(6,'2026-11-07T02:58:50.206619026Z','2026-11-07T02:58:50.206619026Z','film-loop','film-loop-nvme','film-loop-nvme.img','marshlinux-2026.10-lite.img.xz','verified',0,NULL,'','');
INSERT INTO "write_run" VALUES(7,'2026-05-09T02:58:50.206619026Z','2026-05-09T02:58:50.206619026Z','oral-history-booth','oral-history-card','oral-history-card.img','marshlinux-2026.04-lite.img.xz','verified',0,NULL,'','');
INSERT INTO "write_run" VALUES(8,'2026-08-28T02:58:50.206619026Z','2026-08-28T02:58:50.206619026Z','rescue-map-table','rescue-map-card','rescue-map-card.img','dunlin-vm-7.2.img.xz','verified',0,NULL,'','');
INSERT INTO "write_run" VALUES(9,'2026-04-26T02:58:50.206619026Z','2026-04-26T02:58:50.206619026Z','mast-webcam','mast-webcam-card','mast-webcam-card.img','marshlinux-2026.04-lite.img.xz','written',0,NULL,'','');
INSERT INTO "write_run" VALUES(10,'2026-11-21T09:00:00Z',NULL,NULL,'door-counter-emmc','tide-clock-card.img','marsh.img.xz','writing',999999999,NULL,'/drives/tide-clock-card.img','long ago');
CREATE INDEX "flyway_schema_history_s_idx" ON "flyway_schema_history" ("success");
CREATE INDEX logbook_at ON logbook (at);
CREATE INDEX logbook_board ON logbook (board, at);
CREATE INDEX measurement_medium ON measurement (medium, at);
CREATE INDEX operation_medium ON operation (medium, started);
CREATE TRIGGER logbook_no_update BEFORE UPDATE ON logbook
BEGIN
    SELECT RAISE(ABORT, 'the logbook is append-only');
END;
CREATE TRIGGER logbook_no_delete BEFORE DELETE ON logbook
BEGIN
    SELECT RAISE(ABORT, 'the logbook is append-only');
END;
COMMIT;
