-- What is known of each medium beyond its first description; roles of boards; drives that are known to work or not.
ALTER TABLE medium ADD COLUMN label TEXT NOT NULL DEFAULT '';
ALTER TABLE medium ADD COLUMN state TEXT NOT NULL DEFAULT 'here' CHECK (state IN ('here', 'lent', 'retired'));
ALTER TABLE medium ADD COLUMN note TEXT NOT NULL DEFAULT '';
ALTER TABLE medium ADD COLUMN since TEXT;
ALTER TABLE medium ADD COLUMN disk_id TEXT;
ALTER TABLE medium ADD COLUMN holds TEXT NOT NULL DEFAULT '';
ALTER TABLE medium ADD COLUMN looked_at TEXT;

CREATE TABLE measurement (
    id     INTEGER PRIMARY KEY,
    medium TEXT NOT NULL REFERENCES medium (id),
    at     TEXT NOT NULL,
    kind   TEXT NOT NULL CHECK (kind IN ('write', 'read')),
    rate   REAL NOT NULL CHECK (rate > 0)
);
CREATE INDEX measurement_medium ON measurement (medium, at);

CREATE TABLE fault (
    id     INTEGER PRIMARY KEY,
    medium TEXT NOT NULL REFERENCES medium (id),
    at     TEXT NOT NULL,
    text   TEXT NOT NULL
);

CREATE TABLE board_role (
    board TEXT PRIMARY KEY REFERENCES board (id),
    role  TEXT NOT NULL
);

CREATE TABLE known_drive (
    name    TEXT NOT NULL,
    profile TEXT NOT NULL,
    works   INTEGER NOT NULL CHECK (works IN (0, 1)),
    note    TEXT NOT NULL DEFAULT '',
    PRIMARY KEY (name, profile)
);
