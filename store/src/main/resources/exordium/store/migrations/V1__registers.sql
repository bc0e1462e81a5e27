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
);

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
);

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

CREATE TABLE logbook (
    id      INTEGER PRIMARY KEY,
    at      TEXT NOT NULL,
    board   TEXT REFERENCES board (id),
    step    TEXT NOT NULL,
    kind    TEXT NOT NULL,
    text    TEXT NOT NULL,
    details TEXT
);

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

CREATE TABLE setting (
    key   TEXT PRIMARY KEY,
    value TEXT NOT NULL
);
