//! Codes are read however the photo was taken: turned, tilted, dim, noisy, compressed; and no picture, however spoiled,
//! is more than an answer.

#![allow(clippy::unwrap_used, reason = "a test that cannot go on fails")]

use keen_photo::codes_in;
use qrcode::{Color, EcLevel, QrCode};

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

/// Bytes that are as random as compressed ones.
fn bytes(many: usize, seed: u64) -> Vec<u8> {
    let mut luck = seed.wrapping_mul(0x9e37_79b9_7f4a_7c15) | 1;
    let next = |_| {
        luck = luck.wrapping_mul(6_364_136_223_846_793_005).wrapping_add(1_442_695_040_888_963_407);
        (luck >> 40) as u8
    };
    (0..many).map(next).collect()
}

fn code(bytes: &[u8]) -> (usize, Vec<bool>) {
    let level = if bytes.len() <= 900 { EcLevel::M } else { EcLevel::L };
    let code = QrCode::with_error_correction_level(bytes, level).unwrap();
    (code.width(), code.to_colors().into_iter().map(|c| c == Color::Dark).collect())
}

/// A photo of a card with these codes side by side.
fn photo(codes: &[(usize, Vec<bool>)], taken: Taken) -> Vec<u8> {
    let side = taken.side as f64;
    let (sin, cos) = taken.turned.to_radians().sin_cos();
    let mut luck = bytes(taken.side * taken.side, 12_345).into_iter();
    let dark = |x: f64, y: f64| {
        // The card fills -1 to 1, with all codes in one row.
        let many = codes.len() as f64;
        let (column, row) = ((x + 1.0) / 2.0 * many, (y / (2.0 / many) + 0.5));
        if !(0.0..many).contains(&column) || !(0.0..1.0).contains(&row) {
            return false;
        }
        let (width, modules) = &codes[column as usize];
        // A quiet zone of four modules all around.
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
            let noise = f64::from(luck.next().unwrap()) / 255.0 - 0.5;
            greys.push(((sum / 4.0) * shade + taken.noise * noise).clamp(0.0, 255.0) as u8);
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

fn read(picture: &[u8], many: usize) -> Vec<Vec<u8>> {
    codes_in(picture, |codes| codes.len() >= many).unwrap()
}

#[test]
fn codes_are_read_however_the_photo_was_taken() {
    let (mut all, mut missed) = (0, Vec::new());
    for (n, turned) in (0..20_u32).map(|n| f64::from(n) * 18.3).enumerate() {
        // As many bytes as the smallest to the largest drinks of one code.
        let held = bytes(150 + 95 * n, n as u64 + 1);
        let card = [code(&held)];
        let jpeg = Some(75);
        // The more bytes, the more pixels: a module needs about five.
        let (side, finer) = (1000 + 50 * n, 1300 + 60 * n);
        let ways = [
            Taken { turned, side, jpeg, ..PLAIN },
            Taken { turned, side, tilted: 0.12, jpeg, ..PLAIN },
            Taken { turned, side: finer, noise: 60.0, dim: 0.5, jpeg, ..PLAIN },
            Taken { turned, side: finer, tilted: -0.1, noise: 40.0, jpeg: Some(60), ..PLAIN },
        ];
        let taken = ways[n % 4];
        all += 1;
        match read(&photo(&card, taken), 1).as_slice() {
            [read] => assert_eq!(*read, held, "what is read is right"),
            other => missed.push(format!("{} bytes, {taken:?}: {other:?}", held.len())),
        }
    }
    println!("{} of {all} photos were read; {missed:#?}", all - missed.len());
    assert!(missed.len() * 20 <= all, "{missed:#?}");
}

#[test]
fn two_codes_in_one_photo_are_both_read() {
    let held = [bytes(1400, 5), bytes(1400, 6)];
    let card = held.each_ref().map(|b| code(b));
    for turned in [3.0, 130.0, 250.0] {
        let taken = Taken { side: 2600, turned, tilted: 0.04, jpeg: Some(80), ..PLAIN };
        let mut read = read(&photo(&card, taken), 2);
        read.sort_by_key(|b| *b != held[0]);
        assert_eq!(read, held, "{turned}");
    }
}

#[test]
fn a_spoiled_picture_gives_no_code_and_no_harm() {
    let none = |codes: &[Vec<u8>]| !codes.is_empty();
    assert_eq!(codes_in(b"no picture at all", none), None);
    assert_eq!(codes_in(&[], none), None);
    let empty = photo(&[(1, vec![false])], Taken { side: 300, ..PLAIN });
    assert_eq!(codes_in(&empty, none), Some(Vec::new()));
    for jpeg in [None, Some(80)] {
        let whole = photo(&[code(&bytes(200, 9))], Taken { side: 400, jpeg, ..PLAIN });
        for cut in [1, 5, 9] {
            // A picture that is cut off in the middle.
            let read = codes_in(&whole[..whole.len() * cut / 16], none);
            assert!(read.is_none_or(|codes| codes.is_empty()), "{cut} of 16, {jpeg:?}");
        }
        for spoiled in 0..6_u64 {
            let mut picture = whole.clone();
            for at in bytes(40, spoiled).chunks_exact(2) {
                let at = usize::from(at[0]) * 256 + usize::from(at[1]);
                let at = at % picture.len();
                picture[at] = !picture[at];
            }
            // Whatever comes of it, it comes to an end.
            let _ = codes_in(&picture, none);
        }
    }
}
