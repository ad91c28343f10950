-- Shows: everything saved for one event. The document is the whole show as it is now; head is the newest
-- revision that is in it (undo moves head back, redo forward).
CREATE TABLE shows (
    id         BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
    name       VARCHAR(80)     NOT NULL,
    document   JSON            NOT NULL,
    head       INT UNSIGNED    NOT NULL DEFAULT 0,
    created_at TIMESTAMP(3)    NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
    updated_at TIMESTAMP(3)    NOT NULL DEFAULT CURRENT_TIMESTAMP(3) ON UPDATE CURRENT_TIMESTAMP(3)
) ENGINE = InnoDB DEFAULT CHARSET = utf8mb4;

-- Revisions: every edit with the edit that takes it back. Numbers above a show's head can be redone.
CREATE TABLE revisions (
    show_id    BIGINT UNSIGNED NOT NULL,
    number     INT UNSIGNED    NOT NULL,
    name       VARCHAR(120)    NOT NULL,
    edit       JSON            NOT NULL,
    inverse    JSON            NOT NULL,
    created_at TIMESTAMP(3)    NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
    PRIMARY KEY (show_id, number),
    CONSTRAINT revisions_show FOREIGN KEY (show_id) REFERENCES shows (id) ON DELETE CASCADE
) ENGINE = InnoDB DEFAULT CHARSET = utf8mb4;

-- Tracks: sound files of the library; the file itself lies in the data folder under its id.
CREATE TABLE tracks (
    id         VARCHAR(48)  NOT NULL PRIMARY KEY,
    title      VARCHAR(120) NOT NULL,
    seconds    DOUBLE       NOT NULL,
    bpm        DOUBLE       NULL,
    created_at TIMESTAMP(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3)
) ENGINE = InnoDB DEFAULT CHARSET = utf8mb4;

-- What the application itself remembers between starts, such as which show is open.
CREATE TABLE settings (
    name  VARCHAR(60)  NOT NULL PRIMARY KEY,
    value VARCHAR(400) NOT NULL
) ENGINE = InnoDB DEFAULT CHARSET = utf8mb4;
