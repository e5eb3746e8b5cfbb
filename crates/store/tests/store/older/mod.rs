//! Files as older programs have left them.

use std::path::Path;

/// Brings a file back to a form from earlier versions.
pub fn set_back(file: &Path, form: usize) {
    const BACK: [&str; 7] = [
        "DROP TABLE photo",
        "DROP TABLE mark",
        "DROP TABLE log_words; DROP TABLE log_paint; DROP TABLE log_line",
        "DROP TABLE learnt; DROP INDEX document_by_state; CREATE INDEX document_by_kind ON document (kind, removed)",
        "DROP TABLE set_aside; ALTER TABLE mark DROP COLUMN looked_through",
        "DROP TABLE deed",
        "DROP TABLE backup",
    ];
    let older = rusqlite::Connection::open(file).unwrap();
    BACK[form - 2..].iter().rev().for_each(|back| older.execute_batch(back).unwrap());
    older.execute_batch(&format!("PRAGMA user_version = {form}; VACUUM;")).unwrap();
    older.pragma_update(None, "journal_mode", "DELETE").unwrap();
}
