-- A scan is named by its content (SHA-256 of `kept`, a binary PLY) and never changes; jobs name it.
CREATE TABLE scan (
    id        TEXT    PRIMARY KEY CHECK (length(id) = 64),
    -- The file it came from.
    name      TEXT    NOT NULL,
    added     TEXT    NOT NULL DEFAULT (strftime('%Y-%m-%dT%H:%M:%fZ', 'now')),
    vertices  INTEGER NOT NULL,
    triangles INTEGER NOT NULL,
    kept      BLOB    NOT NULL,
    -- A light copy for the screen, binary PLY too.
    drawn     BLOB    NOT NULL
) STRICT;

-- Every line an instrument sent, as it came, whether it was taken or not.
CREATE TABLE instrument_line (
    id         INTEGER PRIMARY KEY AUTOINCREMENT,
    at         TEXT    NOT NULL DEFAULT (strftime('%Y-%m-%dT%H:%M:%fZ', 'now')),
    instrument TEXT    NOT NULL,
    line       TEXT    NOT NULL,
    outcome    TEXT    NOT NULL CHECK (outcome IN ('taken', 'refused', 'unclaimed', 'garbled', 'status')),
    why        TEXT
) STRICT;
