//! Times for a calendar (RFC 5545), with alarms.
//!
//! Each entry keeps its UID from one time to the next, and counts its changes, so that a calendar that is
//! given the file again moves what it has and adds nothing twice. Times are in UTC, so that no calendar
//! has to know the kitchen's zone.

use icalendar::{Alarm, Calendar, Component, Event, EventLike, Trigger};
use jiff::Timestamp;
use jiff::tz::TimeZone;

/// Something that one has to be in the kitchen for.
#[derive(Debug, Clone, PartialEq)]
pub struct CalendarEntry {
    /// Names it, always the same.
    pub uid: String,
    /// What it is.
    pub title: String,
    /// What is done.
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
    let mut calendar = Calendar::empty();
    calendar.append_property(("VERSION", "2.0"));
    calendar.append_property(("PRODID", "-//Keen Pitcher//Plan//EN"));
    calendar.append_property(("CALSCALE", "GREGORIAN"));
    calendar.name(name);
    for entry in entries {
        let mut event = Event::new();
        event
            .uid(&entry.uid)
            .summary(&entry.title)
            .description(&entry.text)
            .add_property("DTSTART", utc(entry.from))
            .add_property("DTEND", utc(entry.to))
            .add_property("DTSTAMP", utc(changed))
            .add_property("LAST-MODIFIED", utc(changed))
            .add_property("SEQUENCE", version.to_string());
        let before = chrono::Duration::minutes(entry.remind);
        let mut alarm = Alarm::display(&entry.title, Trigger::before_start(before));
        alarm.uid(&format!("alarm/{}", entry.uid)).add_property("DTSTAMP", utc(changed));
        event.alarm(alarm.done());
        calendar.push(event.done());
    }
    calendar.done().to_string()
}

fn utc(time: Timestamp) -> String {
    time.to_zoned(TimeZone::UTC).strftime("%Y%m%dT%H%M%SZ").to_string()
}

#[cfg(test)]
mod tests {
    use super::*;

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
        assert!(text.contains("-PT300S") || text.contains("-PT5M"), "{text}");
        // The same again is the same to the letter.
        let again =
            calendar("Open day", &[entry("p/a/1/s1", title), entry("p/b/1/s1", "🍋")], 7, changed);
        assert_eq!(text, again);
    }
}
