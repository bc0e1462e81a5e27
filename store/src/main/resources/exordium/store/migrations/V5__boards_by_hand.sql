-- How one gets at a board: the program plays it, or the user acts at it and tells what was seen. Boards of before were all played.
ALTER TABLE board ADD COLUMN reach TEXT NOT NULL DEFAULT 'simulated' CHECK (reach IN ('simulated', 'by-hand'));
ALTER TABLE board ADD COLUMN note TEXT NOT NULL DEFAULT '';
