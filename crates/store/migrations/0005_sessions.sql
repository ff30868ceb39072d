-- Sessions of paired devices: who may ask from outside the machine. The token itself is with the device alone.
CREATE TABLE session (
    id     INTEGER PRIMARY KEY AUTOINCREMENT,
    -- What its owner calls the device.
    name   TEXT NOT NULL,
    -- SHA-256 of its token.
    digest BLOB NOT NULL UNIQUE CHECK (length(digest) = 32),
    began  TEXT NOT NULL DEFAULT (strftime('%Y-%m-%dT%H:%M:%fZ', 'now')),
    -- When it last asked something, to about ten minutes.
    seen   TEXT NOT NULL DEFAULT (strftime('%Y-%m-%dT%H:%M:%fZ', 'now')),
    -- The address it last asked from.
    peer   TEXT NOT NULL
) STRICT;
