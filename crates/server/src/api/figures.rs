//! Figures as a screen needs them.

use std::io::{self, Write};

use actix_web::body::BoxBody;
use actix_web::{HttpRequest, HttpResponse, Responder};
use keen_core::quantity::to_figures;
use serde::Serialize;
use serde_json::ser::{CompactFormatter, Formatter, Serializer};

/// No figure of a drink is known, or shown, to more figures than this.
const SHOWN: i32 = 6;

/// An answer that is nothing but figures to be shown: written with six of them each, which is half the
/// text. What is kept or sent back, such as a drink, is never written so.
pub(crate) struct Figures<T>(pub(crate) T);

struct Rounded;

impl Formatter for Rounded {
    fn write_f64<W: ?Sized + Write>(&mut self, writer: &mut W, value: f64) -> io::Result<()> {
        CompactFormatter.write_f64(writer, to_figures(value, SHOWN))
    }
}

/// As JSON text.
fn write(value: &impl Serialize) -> Vec<u8> {
    let mut text = Vec::with_capacity(16 * 1024);
    // Writing plain data into memory has no way to fail.
    let _ = value.serialize(&mut Serializer::with_formatter(&mut text, Rounded));
    text
}

impl<T: Serialize> Responder for Figures<T> {
    type Body = BoxBody;

    fn respond_to(self, _: &HttpRequest) -> HttpResponse {
        HttpResponse::Ok().content_type("application/json").body(write(&self.0))
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn figures_are_short_and_right() {
        let text = write(&[1.0 / 3.0, 1_234.567_891, 0.000_012_345_678_9, -2.0, 1e9, 0.0]);
        let text = String::from_utf8(text).unwrap();
        assert_eq!(text, "[0.333333,1234.57,0.0000123457,-2.0,1000000000.0,0.0]");
    }

    #[test]
    fn figures_at_the_ends_of_what_a_number_holds_can_be_read() {
        let ends = [f64::MIN_POSITIVE, 1.79e-308, 5e-324, f64::MAX, f64::MIN];
        let read: Vec<f64> = serde_json::from_slice(&write(&ends)).unwrap();
        for (read, meant) in read.iter().zip(ends) {
            assert!((read / meant - 1.0).abs() < 1e-5, "{read} for {meant}");
        }
    }
}
