//! Labels for bottles and jars, as pictures (SVG) that print on what people have.
//!
//! The program that draws a label may have any font, so nobody knows here how wide a word will be. Each letter is
//! given the width of the widest that usual fonts without serifs draw it, so that what is reckoned to fit does fit;
//! a name that is too long is set smaller, broken into lines, and at last cut with an ellipsis.

use std::fmt::Write;

use qrcode::Color;
use serde::Serialize;
use unicode_segmentation::UnicodeSegmentation;

use crate::code::qr;

/// What is to stand on a label.
#[derive(Debug, Clone, PartialEq, Default)]
pub struct LabelText {
    /// Its name.
    pub name: String,
    /// When it was made and until when it keeps, and how it is thinned: each a short line, the most needed first.
    pub lines: Vec<String>,
    /// What not everybody may have, and what is for adults: said in bold.
    pub warnings: Vec<String>,
    /// What its picture code holds: the address of the bottle, or the drink.
    pub code: Option<Vec<u8>>,
}

/// The format of a label sheet.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, utoipa::ToSchema)]
pub struct LabelFormat {
    /// The id.
    pub id: &'static str,
    /// Its name.
    pub name: &'static str,
    /// The size of a label, mm.
    pub width: f64,
    /// The size of a label, mm.
    pub height: f64,
    /// How many are side by side on a page.
    pub columns: usize,
    /// How many rows a page has.
    pub rows: usize,
    /// The page, mm.
    pub page: [f64; 2],
    /// The margin before the first label, mm: left and top.
    pub margin: [f64; 2],
    /// The distance from one label to the next, mm: across and down.
    pub pitch: [f64; 2],
}

/// Everything that labels are printed on here: common sheets of stickers on A4 and US letter, a tag to tie on, and
/// rolls.
pub const LABEL_FORMATS: [LabelFormat; 7] = [
    LabelFormat {
        id: "a4_24",
        name: "A4 sheet, 24 of 70 × 37 mm",
        width: 70.0,
        height: 37.0,
        columns: 3,
        rows: 8,
        page: [210.0, 297.0],
        margin: [0.0, 0.5],
        pitch: [70.0, 37.0],
    },
    LabelFormat {
        id: "a4_65",
        name: "A4 sheet, 65 of 38 × 21 mm",
        width: 38.1,
        height: 21.2,
        columns: 5,
        rows: 13,
        page: [210.0, 297.0],
        margin: [4.7, 10.7],
        pitch: [40.6, 21.2],
    },
    LabelFormat {
        id: "a4_8",
        name: "A4 sheet, 8 of 105 × 74 mm",
        width: 105.0,
        height: 74.0,
        columns: 2,
        rows: 4,
        page: [210.0, 297.0],
        margin: [0.0, 0.5],
        pitch: [105.0, 74.0],
    },
    LabelFormat {
        id: "letter_30",
        name: "US letter sheet, 30 of 2 5/8 × 1 in",
        width: 66.7,
        height: 25.4,
        columns: 3,
        rows: 10,
        page: [215.9, 279.4],
        margin: [4.8, 12.7],
        pitch: [69.9, 25.4],
    },
    LabelFormat {
        id: "tag",
        name: "One big tag, 90 × 130 mm",
        width: 90.0,
        height: 130.0,
        columns: 1,
        rows: 1,
        page: [90.0, 130.0],
        margin: [0.0, 0.0],
        pitch: [90.0, 130.0],
    },
    LabelFormat {
        id: "roll_62",
        name: "Roll, 62 × 29 mm",
        width: 62.0,
        height: 29.0,
        columns: 1,
        rows: 1,
        page: [62.0, 29.0],
        margin: [0.0, 0.0],
        pitch: [62.0, 29.0],
    },
    LabelFormat {
        id: "roll_89",
        name: "Roll, 89 × 36 mm",
        width: 89.0,
        height: 36.0,
        columns: 1,
        rows: 1,
        page: [89.0, 36.0],
        margin: [0.0, 0.0],
        pitch: [89.0, 36.0],
    },
];

/// The widest that usual fonts draw a letter in bold, in ems.
fn width_of(grapheme: &str) -> f64 {
    let Some(c) = grapheme.chars().next() else { return 0.0 };
    match c {
        'i' | 'l' | 'j' | 'I' | '.' | ',' | ':' | ';' | '\'' | '’' | '!' | '|' => 0.36,
        ' ' | 'f' | 't' | 'r' | '(' | ')' | '-' | '/' | '·' => 0.46,
        'm' | 'w' | 'M' | 'W' | '@' | '%' | '—' | '…' => 1.05,
        'A'..='Z' | '&' | 'À'..='Þ' => 0.82,
        '0'..='9' => 0.68,
        c if c.is_ascii() => 0.68,
        // What stands on no line of its own: marks over letters.
        '\u{300}'..='\u{36f}' | '\u{200b}'..='\u{200f}' | '\u{202a}'..='\u{202e}' => 0.0,
        '\u{600}'..='\u{6ff}' | '\u{750}'..='\u{77f}' | '\u{590}'..='\u{5ff}' => 0.85,
        '\u{80}'..='\u{24f}' | '\u{370}'..='\u{52f}' => 0.9,
        // Emoji, Han, Hangul and all else: as wide as anything.
        _ => 1.4,
    }
}

fn width(text: &str) -> f64 {
    text.graphemes(true).map(width_of).sum()
}

/// As much of a text as is so wide at most, in ems; what is cut ends with an ellipsis.
fn cut(text: &str, most: f64) -> String {
    if width(text) <= most {
        return text.to_owned();
    }
    let mut out = String::new();
    let mut used = width_of("…");
    for grapheme in text.graphemes(true) {
        used += width_of(grapheme);
        if used > most {
            break;
        }
        out.push_str(grapheme);
    }
    format!("{}…", out.trim_end())
}

/// Breaks a text into lines that are so wide at most, in ems. A word that is longer than a line is broken.
fn lines(text: &str, most: f64) -> Vec<String> {
    let mut all: Vec<String> = vec![String::new()];
    let mut used = 0.0;
    for word in text.split_word_bounds() {
        let wide = width(word);
        if used + wide > most && used > 0.0 && !word.trim().is_empty() {
            all.push(String::new());
            used = 0.0;
        }
        if wide <= most {
            if used > 0.0 || !word.trim().is_empty() {
                all.last_mut().unwrap_or(&mut String::new()).push_str(word);
                used += wide;
            }
            continue;
        }
        for grapheme in word.graphemes(true) {
            if used + width_of(grapheme) > most && used > 0.0 {
                all.push(String::new());
                used = 0.0;
            }
            if let Some(line) = all.last_mut() {
                line.push_str(grapheme);
            }
            used += width_of(grapheme);
        }
    }
    all.into_iter().map(|line| line.trim().to_owned()).filter(|line| !line.is_empty()).collect()
}

/// Sets a text as large as it fits into a box: its size in mm, and its lines.
fn fit(
    text: &str,
    (wide, high): (f64, f64),
    sizes: (f64, f64),
    most_lines: usize,
) -> (f64, Vec<String>) {
    let (largest, least) = sizes;
    let mut size = largest;
    loop {
        let set = lines(text, wide / size);
        // A word is broken only where it can't be set any smaller.
        let whole = text.split_whitespace().all(|word| width(word) <= wide / size);
        if whole && set.len() <= most_lines && set.len() as f64 * size * LEADING <= high {
            return (size, set);
        }
        if size <= least {
            let room = ((high / (size * LEADING)).floor() as usize).clamp(1, most_lines);
            let mut set = set;
            let rest = set.split_off(set.len().min(room)).join(" ");
            if !rest.is_empty()
                && let Some(last) = set.last_mut()
            {
                *last = cut(&format!("{last} {rest}"), wide / size);
            }
            return (size, set);
        }
        size = (size * 0.94).max(least);
    }
}

/// From one line to the next, in sizes.
const LEADING: f64 = 1.18;
const FONTS: &str = "Figtree Variable, Figtree, Helvetica, Arial, sans-serif";

/// Whether it is written from right to left.
fn from_the_right(text: &str) -> bool {
    text.chars().find(|c| c.is_alphabetic()).is_some_and(
        |c| matches!(c, '\u{590}'..='\u{8ff}' | '\u{fb1d}'..='\u{fdff}' | '\u{fe70}'..='\u{feff}'),
    )
}

/// A text as it may stand in XML.
fn escaped(text: &str) -> String {
    let mut out = String::with_capacity(text.len());
    for c in text.chars() {
        match c {
            '&' => out.push_str("&amp;"),
            '<' => out.push_str("&lt;"),
            '>' => out.push_str("&gt;"),
            '"' => out.push_str("&quot;"),
            // XML has no way to write these, and nobody means them.
            c if c.is_control() || matches!(c, '\u{fffe}' | '\u{ffff}') => out.push(' '),
            c => out.push(c),
        }
    }
    out
}

/// Writes lines from a height on down; answers where the next would stand.
fn write_lines(
    out: &mut String,
    set: &[String],
    x: (f64, f64),
    mut y: f64,
    size: f64,
    bold: bool,
) -> f64 {
    let weight = if bold { 700 } else { 500 };
    for line in set {
        y += size * LEADING;
        let rtl = from_the_right(line);
        // Written from the right it begins at the right edge.
        let (at, direction) = if rtl { (x.1, " direction=\"rtl\"") } else { (x.0, "") };
        let baseline = y - size * 0.28;
        let _ = write!(
            out,
            "<text x=\"{at:.2}\" y=\"{baseline:.2}\" font-size=\"{size:.2}\" font-weight=\"{weight}\"{direction}>{}</text>",
            escaped(line)
        );
    }
    y
}

/// What can be read off print with a phone: a module of a picture code is at least this wide, mm.
const READABLE: f64 = 0.33;

/// How wide the picture code of a label is, mm.
fn code_side(format: &LabelFormat) -> f64 {
    let pad = padding(format);
    let (wide, high) = (format.width - 2.0 * pad, format.height - 2.0 * pad);
    if format.height > format.width { (wide * 0.55).min(high * 0.4) } else { high.min(wide * 0.32) }
}

fn padding(format: &LabelFormat) -> f64 {
    (format.height.min(format.width) * 0.07).clamp(1.6, 6.0)
}

/// Whether a picture code of these bytes can be read off a label.
#[must_use]
pub fn fits_on_label(bytes: &[u8], format: &LabelFormat) -> bool {
    qr(bytes).is_some_and(|code| code_side(format) / code.width() as f64 >= READABLE)
}

/// The picture code as one path, in a square of that size; nothing where the bytes are too many for one.
fn code(bytes: &[u8], (x, y): (f64, f64), size: f64) -> Option<String> {
    let code = qr(bytes)?;
    let modules = code.width();
    let each = size / modules as f64;
    let mut path = String::new();
    for (at, colour) in code.to_colors().into_iter().enumerate() {
        if colour == Color::Dark {
            let (column, row) = (at % modules, at / modules);
            let _ = write!(
                path,
                "M{:.3} {:.3}h{each:.3}v{each:.3}h-{each:.3}z",
                x + column as f64 * each,
                y + row as f64 * each
            );
        }
    }
    Some(format!("<path d=\"{path}\" shape-rendering=\"crispEdges\"/>"))
}

/// One label at a place of the page, as a group of its own.
fn draw(label: &LabelText, format: &LabelFormat, (left, top): (f64, f64)) -> String {
    let pad = padding(format);
    let (wide, high) = (format.width - 2.0 * pad, format.height - 2.0 * pad);
    let tall = format.height > format.width;
    let mut out = format!("<g class=\"label\" transform=\"translate({left:.2} {top:.2})\">");
    let code_size = code_side(format);
    let mut room = (wide, high);
    if let Some(bytes) = &label.code {
        let at = if tall {
            room.1 -= code_size + pad;
            (pad, format.height - pad - code_size)
        } else {
            room.0 -= code_size + pad;
            (format.width - pad - code_size, pad + (high - code_size) / 2.0)
        };
        out += &code(bytes, at, code_size).unwrap_or_default();
    }
    let x = (pad, pad + room.0);
    // The name has up to half of it; what else there is to say shares the rest.
    let unit = (high / 11.0).clamp(1.8, 5.0);
    let below: Vec<(&String, bool)> = label
        .lines
        .iter()
        .map(|l| (l, false))
        .chain(label.warnings.iter().map(|w| (w, true)))
        .collect();
    // Dates are what a label is for: the lines are set so small that none of them is cut, where that can be read.
    let longest = below.iter().map(|(text, _)| width(text)).fold(1.0, f64::max);
    let shared =
        if below.is_empty() { unit } else { room.1 * 0.5 / (below.len() as f64 * LEADING) };
    let small = unit.min(shared).min(room.0 / longest).max(1.4);
    let rest = (below.len() as f64 * small * LEADING).min(room.1 * 0.62);
    let name_room = (room.0, room.1 - rest - 0.4);
    let (size, set) =
        fit(&label.name, name_room, ((high * 0.19).min(9.0), 1.9), if tall { 5 } else { 3 });
    let mut y = write_lines(&mut out, &set, x, pad, size, true) + 0.4;
    for (text, bold) in below {
        if y + small * LEADING > pad + room.1 + 0.01 {
            break;
        }
        y = write_lines(&mut out, &[cut(text, room.0 / small)], x, y, small, bold);
    }
    out + "</g>"
}

/// Pages of labels as pictures, the first label at the n-th place of the first page, counted from 0. Sizes are in
/// mm, so that a page prints as large as it is.
#[must_use]
pub fn label_pages(labels: &[LabelText], format: &LabelFormat, start_at: usize) -> Vec<String> {
    let each = format.columns * format.rows;
    let start = start_at % each.max(1);
    let [page_wide, page_high] = format.page;
    let mut pages: Vec<String> = Vec::new();
    for (n, label) in labels.iter().enumerate() {
        let place = start + n;
        let (page, at) = (place / each, place % each);
        if page >= pages.len() {
            pages.push(format!(
                "<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"{page_wide}mm\" height=\"{page_high}mm\" \
                 viewBox=\"0 0 {page_wide} {page_high}\" font-family=\"{FONTS}\" fill=\"#000\">"
            ));
        }
        let (column, row) = ((at % format.columns) as f64, (at / format.columns) as f64);
        let [left, top] = format.margin;
        let at = (left + column * format.pitch[0], top + row * format.pitch[1]);
        if let Some(last) = pages.last_mut() {
            *last += &draw(label, format, at);
        }
    }
    pages.iter_mut().for_each(|page| page.push_str("</svg>\n"));
    pages
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    fn label(name: &str) -> LabelText {
        LabelText {
            name: name.into(),
            lines: vec![
                "made 3 June 2030".into(),
                "use by 17 June".into(),
                "1 to 6 with soda".into(),
            ],
            warnings: vec!["Has milk in it".into()],
            code: Some(
                b"http://192.168.178.113:7341/kept/0190a7c2-1111-7aaa-8bbb-000000000001".into(),
            ),
        }
    }

    /// Every text of a page: where it stands, its size, and its letters.
    fn texts(page: &str) -> Vec<(f64, f64, f64, bool, String)> {
        page.split("<text ")
            .skip(1)
            .map(|t| {
                let of = |key: &str| {
                    t.split(&format!("{key}=\"")).nth(1).unwrap().split('"').next().unwrap()
                };
                let said = t.split('>').nth(1).unwrap().split('<').next().unwrap();
                let said = said
                    .replace("&amp;", "&")
                    .replace("&lt;", "<")
                    .replace("&gt;", ">")
                    .replace("&quot;", "\"");
                let number = |key: &str| of(key).parse::<f64>().unwrap();
                (number("x"), number("y"), number("font-size"), t.contains("rtl"), said)
            })
            .collect()
    }

    fn stays_inside(name: &str, format: &LabelFormat) {
        let page = label_pages(&[label(name)], &LabelFormat { margin: [0.0, 0.0], ..*format }, 0)
            .remove(0);
        let all = texts(&page);
        assert!(!all.is_empty(), "{name}");
        for (x, y, size, rtl, said) in all {
            let wide = width(&said) * size;
            let (from, to) = if rtl { (x - wide, x) } else { (x, x + wide) };
            assert!(
                from > -0.01 && to < format.width + 0.01,
                "{}: {said} from {from} to {to}",
                format.id
            );
            assert!(y - size > -0.6 && y < format.height, "{}: {said} at {y}", format.id);
        }
    }

    #[test]
    fn no_text_runs_out_of_its_label() {
        let long = "Blackcurrant, rosemary and pink peppercorn vinegar cordial no 12";
        for format in &LABEL_FORMATS {
            for name in [
                "Lime",
                long,
                "شراب الليمون والنعناع مع ماء الزهر والقليل من السكر البني الداكن",
                "🍋🍓🍊🍋🍓🍊🍋🍓🍊🍋🍓🍊 summer",
                "Wwwwwwwwwwwwwwwwwwwwwwwwwwwwwwwwwwwwwwwwwwwwwwwwwwwwwwwwwwww",
                "柠檬薄荷气泡水配接骨木花糖浆",
                "A & <B> \"C\"",
            ] {
                stays_inside(name, format);
            }
        }
    }

    proptest! {
        #[test]
        fn no_name_at_all_runs_out(name in "\\PC{1,120}", at in 0..LABEL_FORMATS.len()) {
            if !name.trim().is_empty() {
                stays_inside(&name, &LABEL_FORMATS[at]);
            }
        }
    }

    #[test]
    fn they_begin_where_the_sheet_was_used_up_to_and_go_on_to_the_next_page() {
        let format = &LABEL_FORMATS[0];
        let all: Vec<LabelText> = (0..25).map(|n| label(&format!("No {n}"))).collect();
        let pages = label_pages(&all, format, 22);
        let count: Vec<usize> =
            pages.iter().map(|p| p.matches("class=\"label\"").count()).collect();
        assert_eq!(count, [2, 23]);
        assert!(
            pages[0].contains("translate(70.00 259.50)"),
            "the 23rd is the second of the last row"
        );
        // The page is as large as the paper.
        assert!(pages[0].contains("width=\"210mm\" height=\"297mm\""));
        for format in &LABEL_FORMATS {
            let [wide, high] = format.page;
            let right =
                format.margin[0] + (format.columns - 1) as f64 * format.pitch[0] + format.width;
            let down =
                format.margin[1] + (format.rows - 1) as f64 * format.pitch[1] + format.height;
            assert!(right <= wide + 0.6 && down <= high + 0.6, "{}: {right} {down}", format.id);
        }
    }

    #[test]
    fn the_code_is_large_enough_to_be_read() {
        for format in &LABEL_FORMATS {
            let page = label_pages(&[label("Lime")], format, 0).remove(0);
            // A phone needs modules of a quarter of a millimetre and more.
            let each: f64 =
                page.split("h").nth(1).unwrap().split('v').next().unwrap().parse().unwrap_or(1.0);
            let path = page.split("<path d=\"").nth(1).unwrap();
            let module: f64 =
                path.split('h').nth(1).unwrap().split('v').next().unwrap().parse().unwrap();
            assert!(module > 0.25 && each > 0.0, "{}: {module}", format.id);
        }
        let without = LabelText { code: None, ..label("Lime") };
        assert!(!label_pages(&[without], &LABEL_FORMATS[0], 0)[0].contains("<path"));
    }

    #[test]
    fn a_drink_fits_on_a_tag_and_an_address_on_every_label() {
        let of = |id: &str| LABEL_FORMATS.iter().find(|f| f.id == id).unwrap();
        let drink = vec![0xa5; 555];
        let largest = LABEL_FORMATS.iter().max_by(|a, b| a.height.total_cmp(&b.height)).unwrap();
        assert!(fits_on_label(&drink, largest), "{}", largest.name);
        assert!(!fits_on_label(&drink, of("a4_24")));
        assert!(!fits_on_label(&vec![1; 3000], largest), "no code holds that");
        for format in LABEL_FORMATS.iter().filter(|f| f.height > 25.0) {
            assert!(fits_on_label(b"http://192.168.178.113:7341/kept/0190a7c2", format));
        }
    }
}
