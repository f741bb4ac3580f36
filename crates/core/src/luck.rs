//! Luck that can be dealt again.
//!
//! What a text deals must stay the same with every version of the program: the same drink lands in the same
//! cloud, a practice kitchen has the same lemons after an upgrade. So the hash is one whose output is
//! written down (FNV-1a, 64 bits), and none that a library may change.

/// What is mixed in for each byte, by the definition of FNV-1a.
const PRIME: u64 = 0x0100_0000_01b3;
/// Where it begins, by the same.
const OFFSET: u64 = 0xcbf2_9ce4_8422_2325;

/// A seed that a text deals.
#[must_use]
pub fn seed_of(text: &[u8]) -> u64 {
    seed_from(OFFSET, text)
}

/// A seed that a text deals to who has one already.
#[must_use]
pub fn seed_from(seed: u64, text: &[u8]) -> u64 {
    text.iter().fold(seed, |hash, byte| (hash ^ u64::from(*byte)).wrapping_mul(PRIME))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_published_values() {
        assert_eq!(seed_of(b""), 0xcbf2_9ce4_8422_2325);
        assert_eq!(seed_of(b"a"), 0xaf63_dc4c_8601_ec8c);
        assert_eq!(seed_of(b"foobar"), 0x8594_4171_f739_67e8);
        assert_eq!(seed_from(seed_of(b"foo"), b"bar"), seed_of(b"foobar"));
    }
}
