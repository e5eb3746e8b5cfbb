//! Queries of the log.

use std::fmt;
use std::str::FromStr;

use jiff::Timestamp;
use uuid::Uuid;
use warm_blend_paint::Name;

use crate::{log_lines::LogKind, search::beginnings};

/// A position between two log lines, stable when other lines change.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub struct LogPlace {
    /// Time of the line, microseconds since 1970.
    pub at: i64,
    /// Number of the line, among several at that time.
    pub line: i64,
}

impl fmt::Display for LogPlace {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(f, "{}.{}", self.at, self.line)
    }
}

impl FromStr for LogPlace {
    type Err = &'static str;

    fn from_str(text: &str) -> Result<Self, Self::Err> {
        let place = || {
            let (at, line) = text.split_once('.')?;
            Some(Self { at: at.parse().ok()?, line: line.parse().ok()? })
        };
        place().ok_or("this is no place in the log: take the `more` of the page before")
    }
}

/// A parsed query.
#[derive(Debug, Clone, Default, PartialEq)]
pub struct LogQuery {
    /// Beginnings of words; a line must contain all of them.
    pub words: Vec<String>,
    /// True if the search text contains no word, only signs: nothing matches.
    pub nothing: bool,
    /// Kinds of lines; if empty, all.
    pub kinds: Vec<LogKind>,
    /// Piece.
    pub piece: Option<Uuid>,
    /// Client of the piece.
    pub client: Option<Name>,
    /// Paint.
    pub paint: Option<Uuid>,
    /// Earliest time, inclusive.
    pub from: Option<Timestamp>,
    /// Latest time, exclusive.
    pub until: Option<Timestamp>,
    /// Position to continue from.
    pub before: Option<LogPlace>,
    /// Greatest number of lines.
    pub most: usize,
}

impl LogQuery {
    /// A query for words or their beginnings; text without any word, only signs, finds nothing.
    pub fn searching(search: &str) -> Self {
        let words = beginnings(search);
        Self { nothing: words.is_empty() && !search.trim().is_empty(), words, ..Self::default() }
    }
}
