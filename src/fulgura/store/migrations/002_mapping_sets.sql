-- Mapping sets: what the controls of a controller do, kept by its name for every show.
CREATE TABLE mapping_sets (
    controller VARCHAR(120) NOT NULL PRIMARY KEY,
    mappings   JSON         NOT NULL,
    updated_at TIMESTAMP(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3) ON UPDATE CURRENT_TIMESTAMP(3)
) ENGINE = InnoDB DEFAULT CHARSET = utf8mb4;
