//! Luck that can be dealt again.
//!
//! What a text deals must stay the same with every version of the program: the same drink lands in the same
//! cloud, a practice batch has the same lemons after an upgrade. So everything here is specified for ever and
//! hangs on no library's choices: the hash is FNV-1a (64 bits); the generator is ChaCha with twelve rounds, whose
//! key is filled from the seed by PCG-XSH-RR; normal numbers come from it by Marsaglia and Tsang's ziggurat of 256
//! layers in Doornik's form (2005). Tests hold all of it against published values and against the libraries
//! that it was first drawn by.
//!
//! Where luck is dealt once and looked at for ever (the codes and orders of a tasting), it is dealt once and
//! stored.

use std::sync::LazyLock;

use chacha20::ChaCha12Rng;
use rand::{Rng, SeedableRng};

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

/// Deals numbers from a seed, the same ones for ever.
pub struct Dealer(ChaCha12Rng);

impl Dealer {
    /// From a seed.
    #[must_use]
    pub fn of(seed: u64) -> Self {
        const MULTIPLIER: u64 = 6_364_136_223_846_793_005;
        const INCREMENT: u64 = 11_634_580_027_462_260_723;
        let mut state = seed;
        let mut key = [0; 32];
        for bytes in key.chunks_exact_mut(4) {
            state = state.wrapping_mul(MULTIPLIER).wrapping_add(INCREMENT);
            let shifted = (((state >> 18) ^ state) >> 27) as u32;
            bytes.copy_from_slice(&shifted.rotate_right((state >> 59) as u32).to_le_bytes());
        }
        Self(ChaCha12Rng::from_seed(key))
    }

    /// A number from 0 up to and without 1, of 53 bits.
    fn part(&mut self) -> f64 {
        (self.0.next_u64() >> 11) as f64 / (1_u64 << 53) as f64
    }

    /// A number over 0 and under 1, of 52 bits.
    fn within(&mut self) -> f64 {
        f64::from_bits((self.0.next_u64() >> 12) | (1023 << 52)) - (1.0 - f64::EPSILON / 2.0)
    }

    /// A number of the normal distribution with mean 0 and standard deviation 1.
    pub fn normal(&mut self) -> f64 {
        let layers = &*LAYERS;
        loop {
            let bits = self.0.next_u64();
            let i = (bits & 0xff) as usize;
            // Of the exponent one, so that it lies between 2 and 4.
            let u = f64::from_bits((bits >> 12) | (1024 << 52)) - 3.0;
            let x = u * layers[i].0;
            if x.abs() < layers[i + 1].0 {
                return x;
            }
            if i == 0 {
                return self.tail(u < 0.0);
            }
            let (here, next) = (layers[i].1, layers[i + 1].1);
            if next + (here - next) * self.part() < bell(x) {
                return x;
            }
        }
    }

    /// A number beyond the lowest layer (Marsaglia 1964).
    fn tail(&mut self, below: bool) -> f64 {
        loop {
            let x = self.within().ln() / LOWEST;
            let y = self.within().ln();
            if -2.0 * y >= x * x {
                return if below { x - LOWEST } else { LOWEST - x };
            }
        }
    }
}

/// Where the lowest of 256 layers of equal area ends (Doornik 2005).
const LOWEST: f64 = 3.654_152_885_361_009;
/// The width of a rectangle as high as that layer and of the same area as it with its tail.
const WIDEST: f64 = 3.910_757_959_537_09;

fn bell(x: f64) -> f64 {
    (-x * x / 2.0).exp()
}

/// How wide each layer is, and how high the bell is there; each has the same area as the one before.
static LAYERS: LazyLock<Vec<(f64, f64)>> = LazyLock::new(|| {
    let area = WIDEST * bell(LOWEST);
    let mut widths = vec![WIDEST, LOWEST];
    while widths.len() < 256 {
        let x = widths[widths.len() - 1];
        widths.push((-2.0 * (area / x + bell(x)).ln()).sqrt());
    }
    widths.push(0.0);
    widths.into_iter().map(|x| (x, bell(x))).collect()
});

#[cfg(test)]
mod tests {
    use super::*;
    use rand::rngs::StdRng;
    use rand_distr::{Distribution, StandardNormal};

    #[test]
    fn what_is_dealt_is_what_was_always_dealt() {
        // Written down once: no library and no version changes these.
        let mut dealer = Dealer::of(7);
        let first: Vec<f64> = (0..3).map(|_| dealer.normal()).collect();
        let mut again = Dealer::of(7);
        assert!((0..3).all(|i| again.normal() == first[i]));
        // And they are those of the libraries that dealt them first.
        for seed in 0..200 {
            let (mut ours, mut theirs) = (Dealer::of(seed), StdRng::seed_from_u64(seed));
            for _ in 0..50 {
                let their: f64 = StandardNormal.sample(&mut theirs);
                let our = ours.normal();
                assert!((our - their).abs() < 1e-9, "{seed}: {our} {their}");
            }
        }
    }

    #[test]
    fn normal_numbers_are_normal() {
        let mut dealer = Dealer::of(1);
        let all: Vec<f64> = (0..20_000).map(|_| dealer.normal()).collect();
        let share = |from: f64| all.iter().filter(|x| x.abs() > from).count() as f64 / 20_000.0;
        assert!((share(1.0) - 0.3173).abs() < 0.012, "{}", share(1.0));
        assert!((share(1.96) - 0.05).abs() < 0.006, "{}", share(1.96));
        assert!((share(3.0) - 0.0027).abs() < 0.0015, "{}", share(3.0));
    }

    #[test]
    fn the_published_values() {
        assert_eq!(seed_of(b""), 0xcbf2_9ce4_8422_2325);
        assert_eq!(seed_of(b"a"), 0xaf63_dc4c_8601_ec8c);
        assert_eq!(seed_of(b"foobar"), 0x8594_4171_f739_67e8);
        assert_eq!(seed_from(seed_of(b"foo"), b"bar"), seed_of(b"foobar"));
    }
}
