-- What was worked out from all of a medium, with the stamp of what it was worked out from: as long as that is the same, so is this.
CREATE TABLE judged (
    medium TEXT PRIMARY KEY REFERENCES medium (id) ON DELETE CASCADE,
    stamp  TEXT NOT NULL,
    least  INTEGER NOT NULL CHECK (least >= 0),
    used   INTEGER NOT NULL CHECK (used >= 0)
);
