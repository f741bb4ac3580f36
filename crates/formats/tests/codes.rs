//! Cards that read back: every drink goes into its picture codes and out again, from bytes and from pictures; spoiled
//! codes are refused.

#![allow(clippy::unwrap_used, reason = "a test that cannot go on fails")]

use keen_core::cupboard::Cupboard;
use keen_core::drink::Drink;
use keen_formats::{CodeError, code_bytes, code_modules, drink_of, read_codes};

fn drinks() -> Vec<Drink> {
    keen_formats::starting_points().iter().map(|start| start.drink.clone()).collect()
}

/// A sharp picture of these codes side by side, four pixels a module.
fn picture(codes: &[(usize, Vec<bool>)]) -> Vec<u8> {
    const PIXELS: usize = 4;
    const QUIET: usize = 4;
    let side = codes.iter().map(|(width, _)| (width + 2 * QUIET) * PIXELS).max().unwrap();
    let grey = |at: usize| {
        let (x, y) = (at % (side * codes.len()), at / (side * codes.len()));
        let (width, modules) = &codes[x / side];
        let module = |v: usize| (v / PIXELS).checked_sub(QUIET).filter(|m| m < width);
        let dark = module(x % side).zip(module(y)).is_some_and(|(x, y)| modules[y * width + x]);
        if dark { 20 } else { 240 }
    };
    let greys: Vec<u8> = (0..side * side * codes.len()).map(grey).collect();
    let mut out = Vec::new();
    let mut encoder = png::Encoder::new(&mut out, (side * codes.len()) as u32, side as u32);
    encoder.set_color(png::ColorType::Grayscale);
    encoder.write_header().unwrap().write_image_data(&greys).unwrap();
    out
}

fn read(picture: &[u8]) -> Result<Drink, CodeError> {
    drink_of(&read_codes(picture)?, Cupboard::builtin())
}

#[test]
fn every_drink_comes_back_as_it_was() {
    let mut largest = 0;
    for drink in drinks() {
        let codes = code_bytes(&drink).unwrap();
        largest = largest.max(codes.iter().map(Vec::len).sum());
        assert_eq!(drink_of(&codes, Cupboard::builtin()).unwrap(), drink);
        let card = picture(&code_modules(&drink).unwrap());
        assert_eq!(read(&card).unwrap(), drink, "{}", drink.name);
    }
    println!("the largest takes {largest} bytes");
    assert!(largest < 2000, "{largest} bytes");
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
    let both = picture(&code_modules(&large).unwrap());
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
    let empty = picture(&[(50, vec![false; 2500])]);
    assert!(matches!(read(&empty), Err(CodeError::NoCode)));
}
