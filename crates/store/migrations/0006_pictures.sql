-- Pictures that the log shows, kept by their content.
CREATE TABLE picture (
    -- SHA-256 of its bytes, in hexadecimal.
    id    TEXT PRIMARY KEY CHECK (length(id) = 64),
    -- `png` or `jpeg`.
    form  TEXT NOT NULL CHECK (form IN ('png', 'jpeg')),
    bytes BLOB NOT NULL,
    added TEXT NOT NULL DEFAULT (strftime('%Y-%m-%dT%H:%M:%fZ', 'now'))
) STRICT, WITHOUT ROWID;
