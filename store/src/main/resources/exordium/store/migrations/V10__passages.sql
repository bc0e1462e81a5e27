-- A board on its way to what somebody wished for it: the steps as they were planned, with what became of each, as JSON.
CREATE TABLE passage (
    id      INTEGER PRIMARY KEY,
    board   TEXT NOT NULL REFERENCES board (id) ON DELETE CASCADE,
    wish    TEXT NOT NULL,
    state   TEXT NOT NULL CHECK (state IN ('under-way', 'done', 'stopped')),
    begun   TEXT NOT NULL,
    plan    TEXT NOT NULL,
    changed TEXT NOT NULL DEFAULT ''
);
CREATE UNIQUE INDEX passage_under_way ON passage (board) WHERE state = 'under-way';
