-- Documents carry their version and are compressed; a name and a summary stand beside them, so that the list of jobs
-- reads none. Undo is each author's own. What revision_2 holds is carried over in `upgrade.rs`, which then drops it: SQL
-- cannot compress. Its references to itself made deleting a job quadratic; the new ones have none.
ALTER TABLE revision RENAME TO revision_2;

CREATE TABLE revision (
    job      INTEGER NOT NULL REFERENCES job (id) ON DELETE CASCADE,
    seq      INTEGER NOT NULL CHECK (seq > 0),
    at       TEXT    NOT NULL DEFAULT (strftime('%Y-%m-%dT%H:%M:%fZ', 'now')),
    -- The browser or program that made it; empty for one that did not say.
    author   TEXT    NOT NULL,
    kind     TEXT    NOT NULL CHECK (kind IN ('begin', 'edit', 'undo', 'redo', 'recover')),
    -- The edit as JSON, where it was one.
    edit     TEXT,
    -- The revisions its author's next undo and redo take back, and the one that was on top of that stack before.
    undoes   INTEGER,
    redoes   INTEGER,
    beneath  INTEGER,
    -- The job's name, and what else a list shows of it as JSON.
    name     TEXT    NOT NULL,
    summary  TEXT    NOT NULL,
    -- The job as it is from here on: JSON of this version, compressed (zlib).
    version  INTEGER NOT NULL,
    document BLOB    NOT NULL,
    PRIMARY KEY (job, seq)
) STRICT;
CREATE INDEX revision_author ON revision (job, author, seq);

-- The latest revision.
ALTER TABLE job ADD COLUMN head INTEGER NOT NULL DEFAULT 0;

-- Scans that any revision of a job leans on: undo may come back to it.
CREATE TABLE job_scan (
    job  INTEGER NOT NULL REFERENCES job (id) ON DELETE CASCADE,
    scan TEXT    NOT NULL,
    PRIMARY KEY (job, scan)
) STRICT, WITHOUT ROWID;
CREATE INDEX job_scan_scan ON job_scan (scan);
