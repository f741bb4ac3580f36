//! When a drink is wanted: "six people at four", "in two hours", "tomorrow at noon", "on Saturday at 16:30".
//!
//! A clock has two fours, and nobody at home says which. Drinks are served by day: an hour from one to six is in the
//! afternoon, and of two that could be meant, the next counts. A time of today that is past is tomorrow's, unless the
//! day was named.

use keen_core::quantity::Degrees;
use keen_core::quantity::said::{Kind as FieldKind, read as read_field};

/// A moment on the kitchen's clock.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct ClockTime {
    /// The day of the week, 0 for Monday.
    pub weekday: u8,
    /// Minutes since midnight.
    pub minute: f64,
}

/// When it is wanted, as it was said.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(super) enum When {
    /// In so many minutes.
    In(f64),
    /// At a time of the day.
    At { day: Day, hour: u8, minute: u8, half: Half },
}

/// On which day.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Day {
    Unsaid,
    Today,
    Tomorrow,
    Weekday(u8),
}

/// In which half of the day.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Half {
    Unsaid,
    Morning,
    Afternoon,
    /// By the clock of 24 hours.
    Whole,
}

const DAY: f64 = 1440.0;
const WEEKDAYS: [&str; 7] =
    ["monday", "tuesday", "wednesday", "thursday", "friday", "saturday", "sunday"];
/// Hours in words.
const HOURS: [&str; 12] = [
    "one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten", "eleven",
    "twelve",
];
/// What is said for a time of the day: hour, minute.
const TIMES: [(&str, u8, u8); 9] = [
    ("midday", 12, 0),
    ("noon", 12, 0),
    ("lunchtime", 12, 30),
    ("lunch", 12, 30),
    ("tea time", 16, 0),
    ("teatime", 16, 0),
    ("dinner", 19, 0),
    ("tonight", 19, 0),
    ("this evening", 19, 0),
];

impl When {
    /// Minutes from now until then.
    #[must_use]
    pub(super) fn minutes_from(self, now: ClockTime) -> f64 {
        let Self::At { day, hour, minute, half } = self else {
            let Self::In(minutes) = self else { return 0.0 };
            return minutes;
        };
        let at = |hour: u8| f64::from(hour) * 60.0 + f64::from(minute);
        let days = match day {
            Day::Tomorrow => 1,
            Day::Weekday(wanted) => (wanted + 7 - now.weekday) % 7,
            Day::Unsaid | Day::Today => 0,
        };
        let hour = match half {
            Half::Whole => hour,
            Half::Morning => hour % 12,
            Half::Afternoon => hour % 12 + 12,
            Half::Unsaid if (1..=6).contains(&hour) => hour + 12,
            // Both are by day: the next one, if it is today's.
            Half::Unsaid if hour < 12 && days == 0 && at(hour) < now.minute => hour + 12,
            Half::Unsaid => hour,
        };
        let minutes = f64::from(days) * DAY + at(hour) - now.minute;
        match day {
            Day::Unsaid if minutes <= 0.0 => minutes + DAY,
            Day::Weekday(_) if minutes <= 0.0 => minutes + 7.0 * DAY,
            _ => minutes.max(0.0),
        }
    }
}

/// What is said of the time, and where it stands in what was said.
pub(super) fn when(said: &str) -> Option<(When, std::ops::Range<usize>)> {
    let words: Vec<(usize, &str)> = split(said);
    (0..words.len()).find_map(|from| {
        let (when, used) = at(&words[from..])?;
        let (last, word) = words[from + used - 1];
        Some((when, words[from].0..last + word.len()))
    })
}

/// The words, each with where it begins.
fn split(said: &str) -> Vec<(usize, &str)> {
    let start = said.as_ptr() as usize;
    said.split_whitespace().map(|word| (word.as_ptr() as usize - start, word)).collect()
}

/// What these words begin with, and how many of them that takes.
fn at(words: &[(usize, &str)]) -> Option<(When, usize)> {
    let word = |i: usize| words.get(i).map(|(_, word)| word.trim_end_matches('.'));
    let first = word(0)?;
    if matches!(first, "in" | "within") {
        return duration(&words[1..]).map(|(minutes, used)| (When::In(minutes), used + 1));
    }
    let (day, mut used) = day_of(word(0)?, word(1));
    let introduced =
        matches!(word(used), Some("at" | "by" | "before" | "for" | "around" | "about"));
    let ready = matches!(word(used), Some("ready")) && matches!(word(used + 1), Some("at" | "by"));
    used += usize::from(introduced) + 2 * usize::from(ready);
    if day == Day::Unsaid && !introduced && !ready {
        // "Tonight" needs nothing before it.
        let (hour, minute, taken) = named_time(words)?;
        let own = matches!(first, "tonight" | "this");
        return own.then_some((time_of(day, hour, minute, Half::Whole), taken));
    }
    if let Some((hour, minute, taken)) = named_time(words.get(used..)?) {
        return Some((time_of(day, hour, minute, Half::Whole), used + taken));
    }
    match clock(words.get(used..)?) {
        Some((hour, minute, half, taken)) => {
            // "Four tomorrow", "four on Saturday".
            let behind = used + taken;
            let (later, more) = match day {
                Day::Unsaid => word(behind).map_or((day, 0), |w| day_of(w, word(behind + 1))),
                _ => (day, 0),
            };
            Some((time_of(later, hour, minute, half), behind + more))
        }
        // "Tomorrow": for the afternoon.
        None if day != Day::Unsaid && !introduced => Some((time_of(day, 15, 0, Half::Whole), used)),
        None => None,
    }
}

fn time_of(day: Day, hour: u8, minute: u8, half: Half) -> When {
    When::At { day, hour, minute, half }
}

/// "Tomorrow", "today", "on Saturday", "Saturday".
fn day_of(first: &str, second: Option<&str>) -> (Day, usize) {
    let weekday = |word: &str| WEEKDAYS.iter().position(|day| *day == word).map(|i| i as u8);
    match first {
        "today" => (Day::Today, 1),
        "tomorrow" => (Day::Tomorrow, 1),
        "on" | "this" | "next" | "for" | "by" => match second {
            Some("tomorrow") => (Day::Tomorrow, 2),
            Some(word) => weekday(word).map_or((Day::Unsaid, 0), |day| (Day::Weekday(day), 2)),
            None => (Day::Unsaid, 0),
        },
        word => weekday(word).map_or((Day::Unsaid, 0), |day| (Day::Weekday(day), 1)),
    }
}

fn named_time(words: &[(usize, &str)]) -> Option<(u8, u8, usize)> {
    TIMES.iter().find_map(|(name, hour, minute)| {
        let parts: Vec<&str> = name.split(' ').collect();
        let said = words.get(..parts.len())?;
        said.iter().zip(&parts).all(|((_, w), p)| w == p).then_some((*hour, *minute, parts.len()))
    })
}

/// "Four", "4 pm", "16:30", "half past three", "quarter to five", "4 o'clock".
fn clock(words: &[(usize, &str)]) -> Option<(u8, u8, Half, usize)> {
    let word = |i: usize| words.get(i).map(|(_, word)| word.trim_end_matches('.'));
    let (mut hour, mut minute, mut half, mut used);
    let shift = match (word(0)?, word(1)) {
        ("half", Some("past")) => Some(30),
        ("quarter", Some("past")) => Some(15),
        ("quarter", Some("to")) => Some(-15),
        _ => None,
    };
    if let Some(shift) = shift {
        (hour, used) = (hour_of(word(2)?)?, 3);
        if shift < 0 {
            hour = if hour == 1 { 12 } else { hour - 1 };
        }
        (minute, half) = (if shift < 0 { 45 } else { shift as u8 }, Half::Unsaid);
    } else {
        (hour, minute, half) = figures(word(0)?)?;
        used = 1;
    }
    match word(used) {
        Some("pm" | "p.m") if hour <= 12 => (half, used) = (Half::Afternoon, used + 1),
        Some("am" | "a.m") if hour <= 12 => (half, used) = (Half::Morning, used + 1),
        Some("o'clock" | "o’clock") => used += 1,
        // "At 4 limes", "for 6 glasses": no time of the day.
        Some(next) if half == Half::Unsaid && shift.is_none() && !ends(next) => return None,
        _ => {}
    }
    minute = minute.min(59);
    (hour <= 24).then_some((hour % 24, minute, half, used))
}

/// Whether a time may be over before this word.
fn ends(next: &str) -> bool {
    matches!(next, "on" | "today" | "tomorrow" | "for" | "in" | "with" | "please" | "sharp")
        || WEEKDAYS.contains(&next)
}

/// "4", "four", "4pm", "16:30", "16.30", "16h".
fn figures(word: &str) -> Option<(u8, u8, Half)> {
    let (word, half) = match (word.strip_suffix("pm"), word.strip_suffix("am")) {
        (Some(front), _) => (front, Half::Afternoon),
        (_, Some(front)) => (front, Half::Morning),
        _ => (word, Half::Unsaid),
    };
    if let Some((hour, minute)) = word.split_once([':', '.', 'h']) {
        let minute = if minute.is_empty() { 0 } else { minute.parse().ok().filter(|m| *m < 60)? };
        let hour: u8 = hour.parse().ok().filter(|h| *h <= 24)?;
        let whole = half == Half::Unsaid && (hour > 12 || word.starts_with('0'));
        return Some((hour, minute, if whole { Half::Whole } else { half }));
    }
    let hour = hour_of(word)?;
    Some((hour, 0, if hour > 12 { Half::Whole } else { half }))
}

fn hour_of(word: &str) -> Option<u8> {
    let said = HOURS.iter().position(|hour| *hour == word).map(|i| i as u8 + 1);
    said.or_else(|| word.parse().ok().filter(|hour| (1..=24).contains(hour)))
}

/// "Two hours", "half an hour", "90 minutes": as many words as make a time.
fn duration(words: &[(usize, &str)]) -> Option<(f64, usize)> {
    (1..=words.len().min(6)).rev().find_map(|used| {
        let said: Vec<&str> = words[..used].iter().map(|(_, word)| *word).collect();
        let has_unit = said.iter().any(|word| {
            ["minute", "min", "hour", "hr", "day", "week"].iter().any(|unit| word.contains(unit))
        });
        let read = read_field(FieldKind::Minutes, &said.join(" "), None, Degrees::Celsius).ok()?;
        (has_unit).then_some((read.number?, used))
    })
}

#[cfg(test)]
mod tests {
    use super::*;

    /// Tuesday, 9:40.
    const NOW: ClockTime = ClockTime { weekday: 1, minute: 580.0 };

    fn minutes(said: &str) -> Option<f64> {
        when(said).map(|(when, _)| when.minutes_from(NOW))
    }

    #[test]
    fn times_as_they_are_said_on_a_tuesday_at_twenty_to_ten() {
        let at = |days: f64, hour: f64| Some(days * 1440.0 + hour * 60.0 - 580.0);
        for (said, wanted) in [
            ("six people at four", at(0.0, 16.0)),
            ("at 4", at(0.0, 16.0)),
            ("by 4 pm", at(0.0, 16.0)),
            ("by 4pm", at(0.0, 16.0)),
            ("at 16:30", at(0.0, 16.5)),
            ("at 16.30", at(0.0, 16.5)),
            ("at half past three", at(0.0, 15.5)),
            ("before quarter to five", at(0.0, 16.75)),
            ("at 9", at(0.0, 21.0)),
            ("at ten", at(0.0, 10.0)),
            ("at 9 am", at(1.0, 9.0)),
            ("at noon", at(0.0, 12.0)),
            ("for lunch", at(0.0, 12.5)),
            ("tonight", at(0.0, 19.0)),
            ("tomorrow at four", at(1.0, 16.0)),
            ("four people tomorrow at noon", at(1.0, 12.0)),
            ("at four tomorrow", at(1.0, 16.0)),
            ("tomorrow", at(1.0, 15.0)),
            ("on Saturday at 5".to_lowercase().as_str(), at(4.0, 17.0)),
            ("saturday", at(4.0, 15.0)),
            ("on tuesday at 8 am", at(7.0, 8.0)),
            ("at 4 o'clock", at(0.0, 16.0)),
            ("ready by 6", at(0.0, 18.0)),
            ("in 2 hours", Some(120.0)),
            ("in half an hour", Some(30.0)),
            ("within 90 minutes", Some(90.0)),
            ("in an hour and a half", Some(90.0)),
        ] {
            assert_eq!(minutes(said), wanted, "{said}");
        }
    }

    #[test]
    fn what_is_no_time_is_left_alone() {
        for said in [
            "8 limes",
            "for 6 people",
            "for 4 glasses",
            "sugar for 4 people",
            "limes in a bag",
            "ginger in syrup",
            "at home",
            "2 bottles by the door",
            "in 3",
            "half a bottle of syrup",
        ] {
            assert_eq!(when(said), None, "{said}");
        }
        let said = "six people at four";
        let (_, part) = when(said).unwrap();
        assert_eq!(&said[part], "at four");
    }
}
