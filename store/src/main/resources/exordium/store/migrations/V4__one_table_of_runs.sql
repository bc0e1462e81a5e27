-- One table for everything that was ever begun on a medium: writes of images as well. Journals of writes are named by their
-- rows, so these keep their numbers; other deeds get numbers behind them.
CREATE TABLE run (
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

INSERT INTO run (id, kind, started, ended, board, medium, target, target_key, touches, ending, process, process_start, image, report)
SELECT id, 'write', started, ended, board, medium, target, target_key, 1,
       CASE ending WHEN 'writing' THEN 'running' ELSE ending END, process, process_start, image, report
FROM write_run;

INSERT INTO run (id, kind, started, ended, board, medium, target, target_key, touches, ending, process, process_start, words)
SELECT id + (SELECT coalesce(max(id), 0) FROM write_run), kind, started, ended, board, medium, target, target_key, touches, ending,
       process, process_start, words
FROM operation;

DROP TABLE write_run;
DROP TABLE operation;
ALTER TABLE run RENAME TO operation;
CREATE INDEX operation_medium ON operation (medium, started);
CREATE INDEX operation_running ON operation (ending) WHERE ending = 'running';
CREATE INDEX copy_board ON copy (board, proven);
