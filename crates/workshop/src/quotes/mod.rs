//! Quotes: what a client asks for, what it takes and costs, and what became of it.

mod accepted;
mod asked;
mod compared;
mod offered;
mod terms;

pub use accepted::Accepted;
pub use asked::{FinishAsked, QuoteAsked};
pub use compared::{QuoteCompared, QuotesView};
pub use offered::{QuoteView, quote_of};
pub use terms::TermsEntry;
