-- The number, in the journal, of the newest step that is in a show's document.
ALTER TABLE shows ADD COLUMN journalled BIGINT UNSIGNED NOT NULL DEFAULT 0;
