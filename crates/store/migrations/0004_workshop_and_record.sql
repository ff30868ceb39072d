-- The workshop: what the builder works with, whatever the job. Every change is a revision, as of a job; the latest one
-- counts, and where there is none it is a new workshop.
CREATE TABLE workshop (
    seq      INTEGER PRIMARY KEY CHECK (seq > 0),
    at       TEXT    NOT NULL DEFAULT (strftime('%Y-%m-%dT%H:%M:%fZ', 'now')),
    -- The browser or program that made it; empty for one that did not say.
    author   TEXT    NOT NULL,
    -- The edit as JSON.
    edit     TEXT    NOT NULL,
    -- The workshop as it is from here on: JSON of this version.
    version  INTEGER NOT NULL,
    document TEXT    NOT NULL
) STRICT;

-- The record: what was done to the metal. Deeds are only ever added; undo does not touch them. A deed is named by whoever
-- did it, so that the same one may be sent twice.
CREATE TABLE deed (
    job      INTEGER NOT NULL REFERENCES job (id) ON DELETE CASCADE,
    -- Counts a job's deeds, in the order they came.
    seq      INTEGER NOT NULL CHECK (seq > 0),
    id       TEXT    NOT NULL,
    at       TEXT    NOT NULL DEFAULT (strftime('%Y-%m-%dT%H:%M:%fZ', 'now')),
    -- The deed: JSON of this version.
    version  INTEGER NOT NULL,
    document TEXT    NOT NULL,
    PRIMARY KEY (job, seq),
    UNIQUE (job, id)
) STRICT;
