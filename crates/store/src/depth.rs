//! A deep check of a file, including rows against indexes. It reads everything, so it runs beside other work.

use std::path::Path;

use rusqlite::{Connection, OpenFlags};

use crate::StoreError;

/// Result of a deep check.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum Depth {
    /// Everything agrees.
    Sound,
    /// An index disagrees with its table, which is intact, so the index can be rebuilt. Holds the first fault.
    Indexes(String),
    /// The tables are damaged. Holds the first fault.
    Damaged(String),
}

/// How SQLite speaks of an index that does not agree with its table (`PRAGMA integrity_check`).
const OF_AN_INDEX: [&str; 3] =
    [" missing from index ", "wrong # of entries in index ", "non-unique entry in index "];

/// Checks all of a file on a connection of its own.
pub(crate) fn look(path: &Path) -> Result<Depth, StoreError> {
    let connection = Connection::open_with_flags(path, OpenFlags::SQLITE_OPEN_READ_ONLY)?;
    let found = found(&connection);
    match found {
        Err(StoreError::Damaged(what)) => Ok(Depth::Damaged(what)),
        Err(error) => Err(error),
        Ok(lines) => Ok(of_lines(&lines)),
    }
}

fn found(connection: &Connection) -> Result<Vec<String>, StoreError> {
    let mut query = connection.prepare("PRAGMA integrity_check")?;
    let lines = query.query_map([], |row| row.get(0))?;
    Ok(lines.collect::<Result<_, _>>()?)
}

fn of_lines(lines: &[String]) -> Depth {
    let of_an_index = |line: &String| OF_AN_INDEX.iter().any(|words| line.contains(words));
    match lines {
        [] => Depth::Sound,
        [only] if only == "ok" => Depth::Sound,
        [first, ..] if lines.iter().all(of_an_index) => Depth::Indexes(first.clone()),
        lines => {
            let worst = lines.iter().find(|line| !of_an_index(line));
            Depth::Damaged(worst.unwrap_or(&lines[0]).clone())
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn what_sqlite_says_is_understood() {
        let of = |lines: &[&str]| of_lines(&lines.iter().map(|line| (*line).to_owned()).collect::<Vec<_>>());
        assert_eq!(of(&["ok"]), Depth::Sound);
        let missing = "row 3 missing from index document_by_state";
        assert_eq!(
            of(&[missing, "wrong # of entries in index document_by_state"]),
            Depth::Indexes(missing.into())
        );
        let page = "Tree 4 page 12: btreeInitPage() returns error code 11";
        assert_eq!(of(&[missing, page]), Depth::Damaged(page.into()));
    }
}
