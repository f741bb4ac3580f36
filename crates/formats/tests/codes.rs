//! Cards that read back: every drink goes into its picture codes and out again, from bytes and from photos that were
//! turned, bent, dim, noisy and pressed into JPEG; what is spoiled is refused.

#![allow(clippy::unwrap_used, reason = "a test that cannot go on fails")]

use keen_core::cupboard::Cupboard;
use keen_core::drink::Drink;
use keen_formats::{CodeError, code_bytes, code_modules, drink_of, read_codes};

fn drinks() -> Vec<Drink> {
    keen_formats::starting_points().iter().map(|start| start.drink.clone()).collect()
}

/// How a photo of a card was taken.
#[derive(Debug, Clone, Copy)]
struct Taken {
    /// Pixels along each side.
    side: usize,
    turned: f64,
    /// How much nearer one edge of the card is than the other.
    tilted: f64,
    /// How far grey values are off at random.
    noise: f64,
    /// How dark the far corner is, 0 to 1.
    dim: f64,
    /// Quality of the JPEG; a PNG if none.
    jpeg: Option<u8>,
}

const PLAIN: Taken =
    Taken { side: 1000, turned: 0.0, tilted: 0.0, noise: 0.0, dim: 0.0, jpeg: None };

/// A photo of a card with these codes side by side.
fn photo(codes: &[(usize, Vec<bool>)], taken: Taken) -> Vec<u8> {
    let side = taken.side as f64;
    let (sin, cos) = taken.turned.to_radians().sin_cos();
    let mut luck = 12_345_u64;
    let mut random = || {
        luck = luck.wrapping_mul(6_364_136_223_846_793_005).wrapping_add(1_442_695_040_888_963_407);
        (luck >> 33) as f64 / f64::from(u32::MAX >> 1) - 0.5
    };
    let dark = |x: f64, y: f64| {
        // The card lies from -1 to 1, with as many codes in a row as there are.
        let many = codes.len() as f64;
        let (column, row) = ((x + 1.0) / 2.0 * many, (y / (2.0 / many) + 0.5));
        if !(0.0..many).contains(&column) || !(0.0..1.0).contains(&row) {
            return false;
        }
        let (width, modules) = &codes[column as usize];
        // Four modules of quiet all around.
        let all = *width as f64 + 8.0;
        let (x, y) = (column.fract() * all - 4.0, row * all - 4.0);
        let inside = |v: f64| (0.0..*width as f64).contains(&v);
        inside(x) && inside(y) && modules[y as usize * width + x as usize]
    };
    let mut greys = Vec::with_capacity(taken.side * taken.side);
    for row in 0..taken.side {
        for column in 0..taken.side {
            // Each pixel is the mean of four points: a lens has no sharp edges.
            let mut sum = 0.0;
            for (dx, dy) in [(0.0, 0.0), (0.5, 0.0), (0.0, 0.5), (0.5, 0.5)] {
                let x = (column as f64 + dx) / side * 2.0 - 1.0;
                let y = (row as f64 + dy) / side * 2.0 - 1.0;
                let (x, y) = (x * cos + y * sin, y * cos - x * sin);
                let near = 1.0 + taken.tilted * y;
                let (x, y) = (x * 1.45 / near, y * 1.45 / near);
                sum += if dark(x, y) { 35.0 } else { 225.0 };
            }
            let shade = 1.0 - taken.dim * (row + column) as f64 / (2.0 * side);
            greys.push(((sum / 4.0) * shade + taken.noise * random()).clamp(0.0, 255.0) as u8);
        }
    }
    let size = taken.side as u16;
    let mut out = Vec::new();
    match taken.jpeg {
        Some(quality) => jpeg_encoder::Encoder::new(&mut out, quality)
            .encode(&greys, size, size, jpeg_encoder::ColorType::Luma)
            .unwrap(),
        None => {
            let mut encoder = png::Encoder::new(&mut out, taken.side as u32, taken.side as u32);
            encoder.set_color(png::ColorType::Grayscale);
            encoder.write_header().unwrap().write_image_data(&greys).unwrap();
        }
    }
    out
}

fn read(picture: &[u8]) -> Result<Drink, CodeError> {
    drink_of(&read_codes(picture)?, Cupboard::builtin())
}

#[test]
fn every_drink_comes_back_as_it_was() {
    let mut largest = 0;
    for (n, drink) in drinks().into_iter().enumerate() {
        let codes = code_bytes(&drink).unwrap();
        largest = largest.max(codes.iter().map(Vec::len).sum());
        assert_eq!(drink_of(&codes, Cupboard::builtin()).unwrap(), drink);
        if n % 6 == 0 {
            let plain = photo(&code_modules(&drink).unwrap(), PLAIN);
            assert_eq!(read(&plain).unwrap(), drink, "{}", drink.name);
        }
    }
    println!("the largest takes {largest} bytes");
    assert!(largest < 2000, "{largest} bytes");
}

#[test]
fn photos_of_cards_are_read_however_they_were_taken() {
    let drinks = drinks();
    let (mut all, mut missed) = (0, Vec::new());
    for (n, turned) in
        [0.0, 8.0, 45.0, 90.0, 133.0, 180.0, 222.0, 270.0, 301.0, 345.0].into_iter().enumerate()
    {
        let drink = &drinks[n % drinks.len()];
        let codes = code_modules(drink).unwrap();
        let jpeg = Some(75);
        let ways = [
            Taken { turned, jpeg, ..PLAIN },
            Taken { turned, tilted: 0.12, jpeg, ..PLAIN },
            Taken { turned, noise: 60.0, dim: 0.5, side: 1500, jpeg, ..PLAIN },
            Taken { turned, tilted: -0.1, noise: 40.0, side: 1300, jpeg: Some(60), ..PLAIN },
        ];
        // Each angle in one of the ways, the harder ones more often.
        let taken = ways[(n * 3 + 1) % 4];
        all += 1;
        match read(&photo(&codes, taken)) {
            Ok(read) => assert_eq!(read, *drink, "what is read is right"),
            Err(why) => missed.push(format!("{}: {taken:?}: {why}", drink.name)),
        }
    }
    println!("{} of {all} photos were read; {missed:#?}", all - missed.len());
    assert!(missed.len() * 20 <= all, "{missed:#?}");
}

#[test]
fn a_large_drink_takes_two_codes_and_both_are_wanted() {
    let mut large = drinks().into_iter().max_by_key(|d| d.steps.len()).unwrap();
    let mut luck = 7_u64;
    // Notes that can't be pressed together.
    for step in &mut large.steps {
        step.note = (0..230)
            .map(|_| {
                luck = luck.wrapping_mul(6_364_136_223_846_793_005).wrapping_add(99);
                char::from(b'a' + (luck >> 40) as u8 % 26)
            })
            .collect();
    }
    let codes = code_bytes(&large).unwrap();
    assert_eq!(codes.len(), 2);
    assert_eq!(drink_of(&codes, Cupboard::builtin()).unwrap(), large);
    // In any order, and both from one picture.
    let turned: Vec<Vec<u8>> = codes.iter().rev().cloned().collect();
    assert_eq!(drink_of(&turned, Cupboard::builtin()).unwrap(), large);
    let both = photo(&code_modules(&large).unwrap(), Taken { side: 2200, ..PLAIN });
    assert_eq!(read(&both).unwrap(), large);
    assert!(matches!(drink_of(&codes[..1], Cupboard::builtin()), Err(CodeError::Half)));
    // Halves of two cards make no third.
    let other = code_bytes(&drinks()[0]).unwrap();
    let mixed = [codes[0].clone(), other[0].clone()];
    assert!(matches!(drink_of(&mixed, Cupboard::builtin()), Err(CodeError::Half)));
}

#[test]
fn what_is_spoiled_or_no_card_is_refused_in_plain_words() {
    let cupboard = Cupboard::builtin();
    let drink = &drinks()[0];
    let good = code_bytes(drink).unwrap().remove(0);
    for at in [5, 9, 20, good.len() / 2, good.len() - 1] {
        let mut spoiled = good.clone();
        spoiled[at] ^= 0x11;
        let read = drink_of(&[spoiled], cupboard);
        assert!(matches!(read, Err(CodeError::Damaged)), "{at}: {read:?}");
    }
    let mut newer = good.clone();
    newer[2] = 2;
    assert!(matches!(drink_of(&[newer], cupboard), Err(CodeError::Newer)));
    assert!(matches!(
        drink_of(&[b"a link to somewhere".to_vec()], cupboard),
        Err(CodeError::Other)
    ));
    assert!(matches!(read(b"no picture at all"), Err(CodeError::NoPicture)));
    let empty = photo(&[(1, vec![false])], Taken { side: 300, ..PLAIN });
    assert!(matches!(read(&empty), Err(CodeError::NoCode)));
    // A picture that is cut off in the middle.
    let whole = photo(&code_modules(drink).unwrap(), Taken { jpeg: Some(80), ..PLAIN });
    assert!(read(&whole[..whole.len() / 3]).is_err());
}
