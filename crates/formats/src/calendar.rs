//! Times for a calendar (RFC 5545), with alarms.
//!
//! Each entry keeps its UID from one time to the next, and counts its changes, so that a calendar that is
//! given the file again moves what it has and adds nothing twice. Times are in UTC, so that no calendar
//! has to know the kitchen's zone.

use jiff::Timestamp;
use jiff::tz::TimeZone;

/// Something that one has to be in the kitchen for.
#[derive(Debug, Clone, PartialEq)]
pub struct CalendarEntry {
    /// Names it, always the same.
    pub uid: String,
    /// The title.
    pub title: String,
    /// The text.
    pub text: String,
    /// From.
    pub from: Timestamp,
    /// To.
    pub to: Timestamp,
    /// So many minutes before it begins one is told.
    pub remind: i64,
}

/// A calendar file. `version` counts the changes of what it is made from, and `changed` is when the last
/// one was made.
#[must_use]
pub fn calendar(name: &str, entries: &[CalendarEntry], version: i64, changed: Timestamp) -> String {
    let mut file = Lines::default();
    file.line("BEGIN", "VCALENDAR");
    file.line("VERSION", "2.0");
    file.line("PRODID", "-//Keen Pitcher//Plan//EN");
    file.line("CALSCALE", "GREGORIAN");
    // The standard's name, and the one that older calendars know.
    file.text("NAME", name);
    file.text("X-WR-CALNAME", name);
    for entry in entries {
        file.line("BEGIN", "VEVENT");
        file.text("UID", &entry.uid);
        file.line("DTSTAMP", &utc(changed));
        file.line("LAST-MODIFIED", &utc(changed));
        file.line("SEQUENCE", &version.to_string());
        file.line("DTSTART", &utc(entry.from));
        file.line("DTEND", &utc(entry.to));
        file.text("SUMMARY", &entry.title);
        file.text("DESCRIPTION", &entry.text);
        file.line("BEGIN", "VALARM");
        file.text("UID", &format!("alarm/{}", entry.uid));
        file.line("ACTION", "DISPLAY");
        file.text("DESCRIPTION", &entry.title);
        file.line("TRIGGER", &format!("-PT{}M", entry.remind));
        file.line("END", "VALARM");
        file.line("END", "VEVENT");
    }
    file.line("END", "VCALENDAR");
    file.0
}

/// Bytes that a line may have (RFC 5545, 3.1), without its end.
const LONGEST: usize = 75;

/// Content lines, folded where they are too long.
#[derive(Default)]
struct Lines(String);

impl Lines {
    /// A line whose value is none of a person's: a time, a number, a word of the standard.
    fn line(&mut self, property: &str, value: &str) {
        let mut room = LONGEST;
        for character in format!("{property}:{value}").chars() {
            let size = character.len_utf8();
            if size > room {
                self.0.push_str("\r\n ");
                room = LONGEST - 1;
            }
            self.0.push(character);
            room -= size;
        }
        self.0.push_str("\r\n");
    }

    /// A line with words in it. What has a meaning in the format is escaped (3.3.11), so that no name can
    /// begin a line of its own.
    fn text(&mut self, property: &str, words: &str) {
        let mut escaped = String::with_capacity(words.len());
        for character in words.replace("\r\n", "\n").chars() {
            match character {
                '\n' | '\r' => escaped.push_str("\\n"),
                ',' | ';' | '\\' => escaped.extend(['\\', character]),
                other if other.is_control() => {}
                other => escaped.push(other),
            }
        }
        self.line(property, &escaped);
    }
}

fn utc(time: Timestamp) -> String {
    time.to_zoned(TimeZone::UTC).strftime("%Y%m%dT%H%M%SZ").to_string()
}

#[cfg(test)]
mod tests {
    use super::*;
    use icalendar::{Calendar, Component};

    fn entry(uid: &str, title: &str) -> CalendarEntry {
        CalendarEntry {
            uid: uid.into(),
            title: title.into(),
            text: "Strain it; then, “slowly”, pour.\nStir.".into(),
            from: "2030-06-22T06:50:00Z".parse().unwrap(),
            to: "2030-06-22T07:04:00Z".parse().unwrap(),
            remind: 5,
        }
    }

    #[test]
    fn a_calendar_is_read_again_by_a_parser() {
        let changed = "2030-06-01T10:00:00Z".parse().unwrap();
        let title =
            "Hibiscus, bay; orange — squeezed, strained, and a name that is longer than any line";
        let text =
            calendar("Open day", &[entry("p/a/1/s1", title), entry("p/b/1/s1", "🍋")], 7, changed);
        assert!(text.lines().all(|line| line.len() <= 75), "{text}");
        assert!(text.ends_with("END:VCALENDAR\r\n"), "{text}");
        let read: Calendar = text.parse().unwrap();
        let events: Vec<_> = read.components.iter().filter_map(|c| c.as_event()).collect();
        assert_eq!(events.len(), 2);
        assert_eq!(events[0].get_summary(), Some(title));
        assert_eq!(events[0].get_uid(), Some("p/a/1/s1"));
        assert_eq!(events[0].property_value("DTSTART"), Some("20300622T065000Z"));
        assert_eq!(events[0].property_value("DTEND"), Some("20300622T070400Z"));
        assert_eq!(events[0].get_sequence(), Some(7));
        assert_eq!(events[1].get_summary(), Some("🍋"));
        assert_eq!(text.matches("TRIGGER").count(), 2);
        assert!(text.contains("-PT5M"), "{text}");
        // The same again is the same to the letter.
        let again =
            calendar("Open day", &[entry("p/a/1/s1", title), entry("p/b/1/s1", "🍋")], 7, changed);
        assert_eq!(text, again);
    }

    #[test]
    fn no_name_writes_lines_of_its_own() {
        let changed = "2030-06-01T10:00:00Z".parse().unwrap();
        for end in ["\n", "\r", "\r\n", "\u{2028}", "\u{b}"] {
            let name = format!("Open day{end}BEGIN:VEVENT{end}UID:forged{end}END:VEVENT");
            let text = calendar(&name, &[entry(&name, &name)], 1, changed);
            let lines: Vec<&str> = text.split("\r\n").collect();
            assert_eq!(lines.iter().filter(|line| **line == "BEGIN:VEVENT").count(), 1, "{text}");
            assert!(lines.iter().all(|line| !line.contains(['\n', '\r'])), "{text:?}");
            assert!(!lines.iter().any(|line| line.starts_with("UID:forged")), "{text}");
            let read: Calendar = text.parse().unwrap();
            assert_eq!(read.components.len(), 1);
        }
    }
}
