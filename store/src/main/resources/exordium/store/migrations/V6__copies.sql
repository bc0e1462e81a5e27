-- What a copy was made before, such as a new release; such copies are kept by a rule of their own.
ALTER TABLE copy ADD COLUMN before TEXT;
