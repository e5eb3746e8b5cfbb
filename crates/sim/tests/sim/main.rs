//! The engine against paints that it knows nothing of.

mod apart;
mod closed_loop;
mod learned_hand;
mod matched_pots;
mod on_photo;
mod radiative;
mod reader;
mod touched_up;
mod workshop;
