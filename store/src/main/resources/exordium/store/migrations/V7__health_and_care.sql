-- What media told of themselves, reading by reading; and what a copy of a board asks of the people around it.
CREATE TABLE health (
    id          INTEGER PRIMARY KEY,
    medium      TEXT NOT NULL REFERENCES medium (id),
    at          TEXT NOT NULL,
    source      TEXT NOT NULL,
    life_used   REAL CHECK (life_used >= 0),
    spare_left  REAL CHECK (spare_left >= 0),
    errors      INTEGER CHECK (errors >= 0),
    written     INTEGER CHECK (written >= 0),
    failing     INTEGER NOT NULL DEFAULT 0 CHECK (failing IN (0, 1)),
    unclean     INTEGER NOT NULL DEFAULT 0 CHECK (unclean IN (0, 1)),
    file_errors INTEGER NOT NULL DEFAULT 0,
    mounts      INTEGER NOT NULL DEFAULT 0,
    signs       TEXT NOT NULL DEFAULT ''
);
CREATE INDEX health_medium ON health (medium, at);

CREATE TABLE copy_care (
    board      TEXT PRIMARY KEY REFERENCES board (id),
    stop_first TEXT NOT NULL DEFAULT '',
    services   TEXT NOT NULL DEFAULT '',
    quiet      TEXT NOT NULL DEFAULT ''
);
