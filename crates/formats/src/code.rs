//! A drink as a picture code on its printed card: the whole file, compressed, so that a photo of the card gives the
//! drink back, with no address and no network.
//!
//! The bytes of a code are `KP`, 1 for the version, which part it is and of how many, a checksum, and a part of the
//! file of the open format, deflated. The checksum is over all parts: halves of two cards never make a third.

use std::io::{Read, Write};

use flate2::Compression;
use flate2::read::DeflateDecoder;
use flate2::write::DeflateEncoder;
use keen_core::cupboard::Cupboard;
use keen_core::drink::Drink;
use keen_photo::codes_in;
use qrcode::render::svg;
use qrcode::{Color, EcLevel, QrCode};
use sha2::{Digest, Sha256};

use crate::drink_file::{DRINK, read_drink};
use crate::json::FormatError;

const MAGIC: [u8; 3] = [b'K', b'P', 1];
/// Which part a code is, and of how many.
const PART: usize = MAGIC.len();
const PARTS: usize = PART + 1;
const HEAD: usize = PARTS + 1 + CHECK;
const CHECK: usize = 4;
/// What one code carries, bytes: more is hard to read off paper, and goes into two.
const MOST_IN_ONE: usize = 2000;
/// The largest code there is, at the least correction.
const MOST_IN_A_CODE: usize = 2900;
/// No drink is larger than that as a file.
const MOST_FILE: u64 = 1_000_000;
/// Up to here a code is printed so that a quarter of it may be spoiled; larger ones bear less.
const STURDY: usize = 900;

/// Why a card can't be read.
#[derive(Debug, thiserror::Error)]
pub enum CodeError {
    /// There is no picture code, or none that can be read.
    #[error(
        "We couldn't find a picture code. Hold the card flat, fill the picture with it, and use good light."
    )]
    NoCode,
    /// It is a code of something else.
    #[error("This picture code isn't a Keen Pitcher card.")]
    Other,
    /// One of two.
    #[error("This card has two codes, and only one could be read. Take a picture of both.")]
    Half,
    /// Its checksum is wrong.
    #[error("This card is damaged. Print it again.")]
    Damaged,
    /// It was made by a newer version.
    #[error("This card was made by a newer Keen Pitcher. Update this one to read it.")]
    Newer,
    /// It is no picture that can be read.
    #[error("Choose a JPEG or PNG picture of up to 20 MB.")]
    NoPicture,
    /// What is in it is no drink.
    #[error(transparent)]
    Format(#[from] FormatError),
}

/// The bytes of the codes of a drink: one, or two where it is large; none where even two don't hold it.
#[must_use]
pub fn code_bytes(drink: &Drink) -> Option<Vec<Vec<u8>>> {
    let mut encoder = DeflateEncoder::new(Vec::new(), Compression::best());
    encoder.write_all(DRINK.write(drink).as_bytes()).ok()?;
    let packed = encoder.finish().ok()?;
    let parts = if packed.len() + HEAD <= MOST_IN_ONE { 1 } else { 2 };
    let each = packed.len().div_ceil(parts);
    if each + HEAD > MOST_IN_A_CODE {
        return None;
    }
    let check = Sha256::digest(&packed);
    let code = |(part, piece): (usize, &[u8])| {
        [&MAGIC[..], &[part as u8, parts as u8], &check[..CHECK], piece].concat()
    };
    Some(packed.chunks(each).enumerate().map(code).collect())
}

/// The codes of a card in a photo or a scan; none where none can be read.
///
/// # Errors
/// If it isn't a JPEG or PNG picture.
pub fn read_codes(picture: &[u8]) -> Result<Vec<Vec<u8>>, CodeError> {
    // The head of any part says how many there are.
    let parts = |code: &Vec<u8>| code.get(PARTS).map(|n| usize::from(*n).clamp(1, 2));
    codes_in(picture, |codes| codes.iter().find_map(parts).is_some_and(|n| codes.len() >= n))
        .ok_or(CodeError::NoPicture)
}

/// The drink whose codes these are.
///
/// # Errors
/// If none is a card's, one of two is missing, or they are spoiled.
pub fn drink_of(codes: &[Vec<u8>], cupboard: &Cupboard) -> Result<Drink, CodeError> {
    if codes.is_empty() {
        return Err(CodeError::NoCode);
    }
    let mine: Vec<&[u8]> = codes
        .iter()
        .map(Vec::as_slice)
        .filter(|c| c.len() > HEAD && c[..2] == MAGIC[..2])
        .collect();
    let first = mine.first().ok_or(CodeError::Other)?;
    if first[2] != MAGIC[2] {
        return Err(CodeError::Newer);
    }
    let (parts, check) = (usize::from(first[PARTS]), &first[PARTS + 1..HEAD]);
    let mut packed = Vec::new();
    for part in 0..parts {
        let is = |code: &&&[u8]| {
            usize::from(code[PART]) == part && code[PARTS..HEAD] == first[PARTS..HEAD]
        };
        packed.extend_from_slice(&mine.iter().find(is).ok_or(CodeError::Half)?[HEAD..]);
    }
    if &Sha256::digest(&packed)[..CHECK] != check {
        return Err(CodeError::Damaged);
    }
    let mut text = Vec::new();
    let mut unpacked = DeflateDecoder::new(packed.as_slice()).take(MOST_FILE);
    unpacked.read_to_end(&mut text).map_err(|_| CodeError::Damaged)?;
    Ok(read_drink(&text, cupboard)?)
}

/// A picture code: sturdy, or as large as codes get where the bytes are many.
pub(crate) fn qr(bytes: &[u8]) -> Option<QrCode> {
    let level = if bytes.len() <= STURDY { EcLevel::M } else { EcLevel::L };
    QrCode::with_error_correction_level(bytes, level).ok()
}

/// The codes of a drink as one drawing (SVG), side by side, each to be printed 6 to 9 cm wide.
#[must_use]
pub fn code_drawing(drink: &Drink) -> Option<String> {
    const SIDE: u32 = 400;
    let codes = code_bytes(drink)?;
    let mut drawing = format!(
        r#"<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {} {SIDE}">"#,
        SIDE * codes.len() as u32
    );
    for (n, bytes) in codes.iter().enumerate() {
        let code = qr(bytes)?.render::<svg::Color<'_>>().min_dimensions(SIDE, SIDE).build();
        // What stands before the drawing itself belongs to a file of its own.
        let code = &code[code.find("<svg")?..];
        let at = SIDE * n as u32;
        let place = format!(r#"<svg x="{at}" width="{SIDE}" height="{SIDE}" viewBox"#);
        let code = &code[code.find("viewBox")? + "viewBox".len()..];
        drawing += &place;
        drawing += code;
    }
    Some(drawing + "</svg>")
}

/// The modules of each code of a drink, row by row, dark where true; and how many are in a row.
#[must_use]
pub fn code_modules(drink: &Drink) -> Option<Vec<(usize, Vec<bool>)>> {
    let modules = |bytes: &Vec<u8>| {
        let code = qr(bytes)?;
        let dark = code.to_colors().into_iter().map(|c| c == Color::Dark).collect();
        Some((code.width(), dark))
    };
    code_bytes(drink)?.iter().map(modules).collect()
}
