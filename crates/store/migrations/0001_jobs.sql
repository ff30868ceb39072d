-- A job is its revisions. Rows are only ever added to a living job; `seq` counts them.
CREATE TABLE job (
    id      INTEGER PRIMARY KEY AUTOINCREMENT,
    created TEXT    NOT NULL DEFAULT (strftime('%Y-%m-%dT%H:%M:%fZ', 'now'))
) STRICT;

CREATE TABLE revision (
    job     INTEGER NOT NULL REFERENCES job (id) ON DELETE CASCADE,
    seq     INTEGER NOT NULL,
    at      TEXT    NOT NULL DEFAULT (strftime('%Y-%m-%dT%H:%M:%fZ', 'now')),
    -- What made this revision: an edit as JSON, or null for a beginning, an undo or a redo.
    edit    TEXT,
    kind    TEXT    NOT NULL CHECK (kind IN ('begin', 'edit', 'undo', 'redo')),
    -- The document as it is from here on, as JSON.
    document TEXT   NOT NULL,
    -- The revisions whose documents undo and redo go to from here.
    undo_to INTEGER,
    redo_to INTEGER,
    PRIMARY KEY (job, seq),
    FOREIGN KEY (job, undo_to) REFERENCES revision (job, seq) DEFERRABLE INITIALLY DEFERRED,
    FOREIGN KEY (job, redo_to) REFERENCES revision (job, seq) DEFERRABLE INITIALLY DEFERRED
) STRICT, WITHOUT ROWID;
