//! Fingerprints of certificates, for people to compare.

use bip39::Language;
use sha2::{Digest, Sha256};

/// Bits of a word: the list has 2048.
const BITS: usize = 11;

/// Words shown of a fingerprint. 66 bits: making another certificate with the same words takes some 2^66 attempts.
const WORDS: usize = 6;

/// The SHA-256 of a certificate (DER), as browsers show it.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Fingerprint([u8; 32]);

impl Fingerprint {
    /// Computes the fingerprint of a certificate (DER).
    pub fn new(certificate: &[u8]) -> Self {
        Self(Sha256::digest(certificate).into())
    }

    /// Its first 66 bits as six English words of the list of BIP 39, in which the first four letters identify a word.
    pub fn words(&self) -> Vec<&'static str> {
        let bit = |n: usize| usize::from(self.0[n / 8] >> (7 - n % 8) & 1);
        let number = |word: usize| (0..BITS).fold(0, |number, n| number << 1 | bit(word * BITS + n));
        (0..WORDS).map(|word| Language::English.word_list()[number(word)]).collect()
    }

    /// All of it in hexadecimal, in pairs: `3A:0F:…`.
    pub fn hex(&self) -> String {
        self.0.map(|byte| format!("{byte:02X}")).join(":")
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn words_are_eleven_bits_each() {
        // The first and last words of the list of BIP 39.
        assert_eq!(Fingerprint([0; 32]).words(), ["abandon"; 6]);
        assert_eq!(Fingerprint([0xff; 32]).words(), ["zoo"; 6]);
        // 00000000001 00000000000 …: the second word of the list, then the first.
        let mut second = [0; 32];
        second[1] = 0b0010_0000;
        assert_eq!(Fingerprint(second).words()[..2], ["ability", "abandon"]);
    }

    #[test]
    fn hexadecimal_is_that_of_the_standard() {
        // SHA-256 of "abc": FIPS 180-4, example of the one-block message.
        let hex = Fingerprint::new(b"abc").hex();
        assert!(hex.starts_with("BA:78:16:BF:8F:01:CF:EA"), "{hex}");
        assert!(hex.ends_with("F2:00:15:AD"), "{hex}");
    }
}
