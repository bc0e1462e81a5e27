-- Which ways to a board there are is the program's matter, not the register's.
ALTER TABLE board ADD COLUMN way TEXT NOT NULL DEFAULT 'simulated';
UPDATE board SET way = reach;
ALTER TABLE board DROP COLUMN reach;
