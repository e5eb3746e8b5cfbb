//! What colour computation holds to.

mod ciede2000;
mod lights;
mod smoothest;
