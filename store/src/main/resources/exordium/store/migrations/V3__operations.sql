-- One row for everything that is done to a medium beside writing an image; what it did to the medium decides what is still proven.
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
CREATE INDEX operation_medium ON operation (medium, started);

-- A target is known by what it is, not by its name; a process by its number and when it began.
ALTER TABLE write_run ADD COLUMN target_key TEXT NOT NULL DEFAULT '';
ALTER TABLE write_run ADD COLUMN process_start TEXT NOT NULL DEFAULT '';
