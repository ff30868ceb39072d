//! What is kept, and what is undone. One program for all, since each more is linked and started by itself.

mod lasting;
mod own_undo;
mod revisions;
