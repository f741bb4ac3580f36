//! Reads picture codes in a photo or a scan.
//!
//! The `rqrr` package finds a code. It needs edges that are a few pixels wide, but not many. So we try the picture at its
//! own size, then smaller, then larger, each time also smoothed and evenly lit, until enough has been read. These are
//! passes over millions of pixels, so this crate is compiled with optimisation even where the others aren't.

use std::f64::consts::FRAC_PI_4;

use rqrr::PreparedImage;
use zune_jpeg::JpegDecoder;
use zune_jpeg::zune_core::bytestream::ZCursor;
use zune_jpeg::zune_core::colorspace::ColorSpace;
use zune_jpeg::zune_core::options::DecoderOptions;

/// The largest picture that we read, bytes.
pub const MOST_BYTES: usize = 20_000_000;
/// The longest side that we read, px.
const MOST_SIDE: usize = 9000;
/// The sizes at which we look for codes, px along the longer side.
const SIDES: [usize; 5] = [1600, 1000, 2400, 700, 3400];
/// The sizes at which we look at each half alone, px along the longer side.
const HALVED: [usize; 2] = [2200, 3000];

/// A picture in greys.
#[derive(Debug, Clone)]
struct Greys {
    width: usize,
    height: usize,
    all: Vec<u8>,
}

/// The bytes of each picture code in a JPEG or PNG picture, until there are `enough`; fewer, or none, where no more can be
/// read. Nothing if it isn't such a picture.
pub fn codes_in(picture: &[u8], enough: impl Fn(&[Vec<u8>]) -> bool) -> Option<Vec<Vec<u8>>> {
    let greys = greys_of(picture)?;
    let mut found: Vec<Vec<u8>> = Vec::new();
    let longest = greys.width.max(greys.height);
    let sides = std::iter::once(longest.min(3000)).chain(SIDES);
    // Enlarged more than twice, a picture shows nothing more.
    for side in sides.filter(|side| *side <= longest * 2) {
        let sized = greys.sized(side as f64 / longest as f64);
        let smoothed = sized.smoothed();
        let evened = smoothed.evened();
        for picture in [sized, smoothed, evened] {
            if picture.add_codes(&mut found, &enough) {
                return Some(found);
            }
        }
    }
    // Corners of two codes side by side can be taken for one code's: then each half is looked at alone.
    let mut halved = HALVED.map(|side| side.min(longest)).to_vec();
    halved.dedup();
    for side in halved {
        let sized = greys.sized(side as f64 / longest as f64).smoothed();
        for eighth in 0..8 {
            if sized.half(f64::from(eighth) * FRAC_PI_4).add_codes(&mut found, &enough) {
                return Some(found);
            }
        }
    }
    Some(found)
}

fn greys_of(picture: &[u8]) -> Option<Greys> {
    if picture.len() > MOST_BYTES {
        return None;
    }
    if picture.starts_with(&[0xff, 0xd8, 0xff]) {
        let options = DecoderOptions::default()
            .jpeg_set_out_colorspace(ColorSpace::Luma)
            .set_max_width(MOST_SIDE)
            .set_max_height(MOST_SIDE);
        let mut decoder = JpegDecoder::new_with_options(ZCursor::new(picture), options);
        let all = decoder.decode().ok()?;
        let (width, height) = decoder.dimensions()?;
        return (all.len() == width * height).then_some(Greys { width, height, all });
    }
    let mut decoder = png::Decoder::new(std::io::Cursor::new(picture));
    decoder.set_transformations(png::Transformations::EXPAND | png::Transformations::STRIP_16);
    let mut reader = decoder.read_info().ok()?;
    let (width, height) = (reader.info().width as usize, reader.info().height as usize);
    if width.max(height) > MOST_SIDE {
        return None;
    }
    let mut pixels = vec![0; reader.output_buffer_size()?];
    let info = reader.next_frame(&mut pixels).ok()?;
    let each = info.color_type.samples();
    let grey = |pixel: &[u8]| match pixel {
        [red, green, blue, ..] => {
            ((u32::from(*red) * 299 + u32::from(*green) * 587 + u32::from(*blue) * 114) / 1000)
                as u8
        }
        [grey, ..] => *grey,
        [] => 0,
    };
    let all: Vec<u8> = pixels[..info.buffer_size()].chunks_exact(each).map(grey).collect();
    (all.len() == width * height).then_some(Greys { width, height, all })
}

impl Greys {
    fn at(&self, x: usize, y: usize) -> u8 {
        self.all[y.min(self.height - 1) * self.width + x.min(self.width - 1)]
    }

    /// The same at another size: smaller by the mean of what falls together, larger between the nearest four.
    fn sized(&self, times: f64) -> Self {
        if (times - 1.0).abs() < 1e-3 {
            return self.clone();
        }
        let width = ((self.width as f64 * times) as usize).max(1);
        let height = ((self.height as f64 * times) as usize).max(1);
        let mut all = Vec::with_capacity(width * height);
        for y in 0..height {
            for x in 0..width {
                all.push(if times < 1.0 {
                    self.mean((x as f64 / times, y as f64 / times), 1.0 / times)
                } else {
                    self.between((x as f64 + 0.5) / times - 0.5, (y as f64 + 0.5) / times - 0.5)
                });
            }
        }
        Self { width, height, all }
    }

    fn mean(&self, (x, y): (f64, f64), side: f64) -> u8 {
        let (left, top) = (x as usize, y as usize);
        let (right, bottom) =
            (((x + side) as usize).max(left + 1), ((y + side) as usize).max(top + 1));
        let (right, bottom) = (right.min(self.width), bottom.min(self.height));
        let rows = (top..bottom).map(|y| &self.all[y * self.width + left..y * self.width + right]);
        let (sum, many) = rows.fold((0_u32, 0_u32), |(sum, many), row| {
            (sum + row.iter().map(|g| u32::from(*g)).sum::<u32>(), many + row.len() as u32)
        });
        sum.checked_div(many).map_or_else(|| self.at(left, top), |mean| mean as u8)
    }

    fn between(&self, x: f64, y: f64) -> u8 {
        let (x, y) = (x.max(0.0), y.max(0.0));
        let (left, top) = (x as usize, y as usize);
        let (right, down) = (x.fract(), y.fract());
        let grey = |x, y| f64::from(self.at(x, y));
        let upper = grey(left, top) * (1.0 - right) + grey(left + 1, top) * right;
        let lower = grey(left, top + 1) * (1.0 - right) + grey(left + 1, top + 1) * right;
        (upper * (1.0 - down) + lower * down) as u8
    }

    /// Each pixel the mean of its neighbours: noise goes, edges stay where they are.
    fn smoothed(&self) -> Self {
        let row = |y: usize| &self.all[y * self.width..(y + 1) * self.width];
        let mut all = Vec::with_capacity(self.all.len());
        let mut columns = vec![0_u16; self.width];
        for y in 0..self.height {
            let (above, here, below) =
                (row(y.saturating_sub(1)), row(y), row((y + 1).min(self.height - 1)));
            for (x, sum) in columns.iter_mut().enumerate() {
                *sum = u16::from(above[x]) + u16::from(here[x]) + u16::from(below[x]);
            }
            let last = self.width - 1;
            all.extend((0..self.width).map(|x| {
                let sum = columns[x.saturating_sub(1)] + columns[x] + columns[(x + 1).min(last)];
                (sum / 9) as u8
            }));
        }
        Self { all, ..*self }
    }

    /// As if it had been evenly lit: each pixel against the mean of what lies around it, an eighth of the picture wide.
    fn evened(&self) -> Self {
        let row = self.width + 1;
        let mut sums = vec![0_u64; row * (self.height + 1)];
        for y in 0..self.height {
            let mut sum = 0;
            for x in 0..self.width {
                sum += u64::from(self.all[y * self.width + x]);
                sums[(y + 1) * row + x + 1] = sums[y * row + x + 1] + sum;
            }
        }
        let half = (self.width.min(self.height) / 16).max(4);
        let mut all = Vec::with_capacity(self.all.len());
        for y in 0..self.height {
            let (top, bottom) = (y.saturating_sub(half), (y + half).min(self.height));
            for x in 0..self.width {
                let (left, right) = (x.saturating_sub(half), (x + half).min(self.width));
                let inside = sums[bottom * row + right] + sums[top * row + left]
                    - sums[top * row + right]
                    - sums[bottom * row + left];
                let mean = inside as f64 / ((bottom - top) * (right - left)) as f64;
                let grey = f64::from(self.all[y * self.width + x]);
                all.push((128.0 * grey / mean.max(8.0)).clamp(0.0, 255.0) as u8);
            }
        }
        Self { all, ..*self }
    }

    /// One half of the picture, on the side to which `angle` points; the other is white.
    fn half(&self, angle: f64) -> Self {
        let (down, right) = angle.sin_cos();
        let mut half = self.clone();
        for (y, row) in half.all.chunks_exact_mut(self.width).enumerate() {
            let height = (y as f64 - self.height as f64 / 2.0) * down;
            for (x, grey) in row.iter_mut().enumerate() {
                if (x as f64 - self.width as f64 / 2.0) * right + height < 0.0 {
                    *grey = u8::MAX;
                }
            }
        }
        half
    }

    /// Adds what isn't there yet, and says whether that is enough.
    fn add_codes(&self, found: &mut Vec<Vec<u8>>, enough: impl Fn(&[Vec<u8>]) -> bool) -> bool {
        for code in self.codes() {
            if !found.contains(&code) {
                found.push(code);
            }
        }
        enough(found)
    }

    fn codes(&self) -> Vec<Vec<u8>> {
        let grey = |x, y| self.all[y * self.width + x];
        let mut prepared = PreparedImage::prepare_from_greyscale(self.width, self.height, grey);
        let grids = prepared.detect_grids();
        let read = grids.into_iter().filter_map(|grid| {
            let mut bytes = Vec::new();
            grid.decode_to(&mut bytes).ok().map(|_| bytes)
        });
        read.filter(|bytes| !bytes.is_empty()).collect()
    }
}
