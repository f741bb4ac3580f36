//! The text as a whole: which line is what, what was chosen, and what it all comes to.

use keen_core::cupboard::{Cupboard, Form};
use keen_core::drink::{Action, limits};
use keen_core::quantity::{Amount, Measure};

use super::doubt::{self, NO_RECIPE};
use super::item::{Item, NOT_CONVERTED, guess, kitchen_round};
use super::lines::{
    DRINKS, Kind, Section, bare, front, heading, is_capital, numbered_step, sentences, thinned,
};
use super::making::{self, Done, Entry, Makes};
use super::method::{self, Doing};
use super::names::Names;
use super::outcome::{Choice, Differs, Offer, Pasted, PastedLine, Run, Sure, Thing};
use super::said::{as_meant, joined_by_words, part_by_part, with_verbs};
use super::scanned::{by_its_picture, in_lines, in_words, pictures, restored};
use super::sizes::Sizes;
use super::verbs::{Verb, verb_at, verb_of};
use super::{list, missed, said, unused, uses};
use keen_core::quantity::said::{Word, number, says, time, together, words};

/// The choice that a text is read although it doesn't look like a recipe.
pub const ANYWAY: &str = "anyway";
/// The longest text that is read.
pub const MOST_CHARACTERS: usize = 20_000;
/// Lines that are read; what comes after is left aside.
const MOST_LINES: usize = 400;
/// Words of a line that are read.
const MOST_WORDS: usize = 400;
/// Things that go into one drink.
const MOST_THINGS: usize = 60;

/// Reads a recipe. Any text can be read; what can't stands in the drink's note.
#[must_use]
pub fn read_recipe(text: &str, choices: &[Choice], cupboard: &Cupboard) -> Pasted {
    let names = Names::of(cupboard);
    let mut reader = Reader {
        names: &names,
        section: Section::Open,
        group: None,
        title: None,
        lines: Vec::new(),
        entries: Vec::new(),
        done: Vec::new(),
        makes: Makes::default(),
        sizes: Sizes::default(),
        aside: Vec::new(),
        told: Vec::new(),
        heads_part: false,
        within_a_list: false,
    };
    let text = in_lines(text);
    let text = &text[..text.char_indices().nth(MOST_CHARACTERS).map_or(text.len(), |(at, _)| at)];
    let alone = parts(text, &names);
    let within = within_lists(text);
    let pictured = pictures(text, |found| {
        let named = names.find(found)?;
        let words: Vec<&str> = named.at.iter().map(|at| found[*at].text.as_str()).collect();
        Some(words.join(" "))
    });
    for (at, line) in text.lines().take(MOST_LINES).enumerate() {
        let named = |found: &[Word]| names.find(found).is_some();
        let meant = restored(&by_its_picture(&in_words(line, &pictured), named));
        reader.heads_part = alone.contains(&at);
        reader.within_a_list = within.contains(&at);
        reader.line(&meant);
        if meant != line
            && let Some(shown) = reader.lines.last_mut()
        {
            shown.as_written(line);
        }
    }
    let anyway = choices.iter().any(|c| c.key == ANYWAY);
    let aside = reader.lines.iter().filter(|l| l.is_left_aside()).count();
    let doubt = doubt::is_none(text, (&reader.entries, aside), &reader.done);
    if doubt && !anyway {
        return reader.nothing();
    }
    reader.finish(choices)
}

/// Words that say how much a recipe makes.
const MAKES: [&str; 14] = [
    "makes", "make", "serves", "serve", "yield", "for", "cup", "portion", "glass", "serving",
    "people", "person", "drink", "bottle",
];

/// Why an amount in pints is a guess.
const WHOSE_PINT: &str =
    "A pint is 473 ml in the US and 568 ml in Britain. We used the US pint; choose if it isn't.";

struct Reader<'a> {
    names: &'a Names<'a>,
    section: Section,
    group: Option<String>,
    title: Option<String>,
    lines: Vec<PastedLine>,
    entries: Vec<Entry>,
    done: Vec<Done>,
    makes: Makes,
    sizes: Sizes,
    aside: Vec<String>,
    /// The words of the lines that tell what goes in and what is done, with their lines.
    told: Vec<(usize, Vec<Word>)>,
    /// Whether the line at hand looks like the heading of a part: see [`parts`].
    heads_part: bool,
    /// Whether it stands between two that count something out.
    within_a_list: bool,
}

/// The lines that head a part of a list without a colon: "Syrup" or "Tea", alone between a blank line and one that
/// begins with an amount. A known ingredient may stand there without its amount, so of those there must be two.
fn parts(text: &str, names: &Names<'_>) -> Vec<usize> {
    let lines: Vec<&str> = text.lines().take(MOST_LINES).collect();
    let heads = |at: &usize| {
        let (text, marked) = bare(lines[*at]);
        let found = words(text);
        let next = lines.get(at + 1).map_or("", |next| bare(next).0);
        *at > 0
            && lines[at - 1].trim().is_empty()
            && !marked
            && (1..=4).contains(&found.len())
            && found.iter().all(|w| !w.is_sign() && number(std::slice::from_ref(w)).is_none())
            && text.starts_with(char::is_uppercase)
            && number(&words(next)).is_some()
    };
    let all: Vec<usize> = (0..lines.len()).filter(heads).collect();
    let known = |at: &usize| names.find(&words(bare(lines[*at]).0)).is_some();
    if all.len() > 1 { all } else { all.into_iter().filter(|at| !known(at)).collect() }
}

/// The lines that stand between two short ones with figures: "dill, a few fronds" between "200 ml water" and "¼ tsp
/// salt" goes in like them.
fn within_lists(text: &str) -> Vec<usize> {
    let lines: Vec<Vec<Word>> = text.lines().take(MOST_LINES).map(|l| words(bare(l).0)).collect();
    let counts = |at: usize| {
        let found = &lines[at];
        let counted = |from: usize| {
            let counts = number(&found[from..]).is_some_and(|(_, used)| from + used == found.len());
            counts || said::plain(&found[from..]).is_some()
        };
        found.len() <= 14 && (number(found).is_some() || (0..found.len()).any(counted))
    };
    // "Pour:", "LEMONADE"
    let heads = |found: &[Word]| {
        let last = found.last();
        let shouted = found.iter().all(|w| w.written.chars().all(|c| !c.is_lowercase()));
        last.is_some_and(|w| w.is(&[":", "."]) || w.is(&DRINKS) && found.len() < 3) || shouted
    };
    (1..lines.len().saturating_sub(1))
        .filter(|at| {
            counts(at - 1) && counts(at + 1) && !lines[*at].is_empty() && !heads(&lines[*at])
        })
        .collect()
}

/// "For each glass, …", "To every serving …": it counts out what goes into a glass.
fn is_of_each_glass(found: &[Word]) -> bool {
    let counted = (1..found.len()).filter(|at| said::plain(&found[*at..]).is_some()).count();
    found.len() > 3
        && found[0].is(&["for", "in", "into", "to", "per"])
        && found[1].is(&["each", "every"])
        && found[2].is(&["glass", "drink", "serving", "portion", "tumbler"])
        && counted > 1
}

/// Whether two words or more are written in capitals, and no figures.
fn is_shouted(text: &str) -> bool {
    let letters = || text.chars().filter(|c| c.is_alphabetic());
    letters().count() > 5
        && letters().all(char::is_uppercase)
        && text.split_whitespace().count() > 1
        && !text.contains(|c: char| c.is_ascii_digit())
}

/// A line, and what can be told of it before it is known what it is.
struct Line<'w> {
    /// As it was written, and without the marks in front.
    line: &'w str,
    text: &'w str,
    found: &'w [Word],
    /// Whether it stands in a list of dots or numbers.
    marked: bool,
    items: Vec<Item>,
    doings: Vec<Doing>,
    /// It names an ingredient; it begins with a number; it begins with what is done; it is a sentence.
    known: bool,
    counted: bool,
    orders: bool,
    sentence: bool,
}

impl<'w> Line<'w> {
    fn of(
        reader: &Reader<'_>,
        (line, text): (&'w str, &'w str),
        found: &'w [Word],
        marked: bool,
    ) -> Self {
        let items = list::items(found, reader.names);
        let known = items.iter().any(|i| i.ingredient.is_some());
        let doings = method::doings(found, reader.names);
        let orders =
            doings.first().is_some_and(|d| d.verb_at <= found[found.len().min(3) - 1].from)
                && !(reader.done.is_empty()
                    && matches!(
                        found[0].text.as_str(),
                        "juice" | "zest" | "peel" | "squeeze" | "rest" | "drink"
                    ));
        let sentence = (text.trim_end().ends_with('.') && found.len() > 5)
            || (found.len() > 14 && doings.len() > 1);
        // "Zest of 3 oranges, juice of 6"
        let of_fruit = found.len() > 3
            && found[0].is(&["zest", "juice", "peel", "rind"])
            && found[1].is(&["of", "from"])
            && number(&found[2..]).is_some();
        let counted = number(found).is_some() || of_fruit && !sentence;
        Self { line, text, found, marked, items, doings, known, counted, orders, sentence }
    }

    /// Whether it lists something with its amount.
    fn says_how_much(&self) -> bool {
        self.items.iter().any(|i| i.said && i.ingredient.is_some())
    }
}

impl Reader<'_> {
    fn line(&mut self, line: &str) {
        let (text, marked) = bare(line);
        let step = numbered_step(text).filter(|_| self.section == Section::Method);
        let text = step.unwrap_or(text);
        let mut found = said::meant(text);
        found.truncate(MOST_WORDS);
        let offset = line.len() - text.len();
        if let Some(volume) = said::without_its_size(&mut found)
            && self.makes == Makes::default()
        {
            self.makes.volume = Some(volume);
        }
        if found.len() <= 12 && self.names.find(&found).is_none() && self.sizes.take(&found) {
            return self.shown(line, Sure::Understood);
        }
        if let Some(at) = self.makes_in_front(&found) {
            self.read_makes(&found[..at]);
            self.behind(line, offset + found[at].to);
            return;
        }
        if let Some(at) = self.part_in_front(&found) {
            self.group = Some(found[0].text.clone()).filter(|part| part != "then");
            self.behind(line, offset + found[at].to);
            return;
        }
        // "Drink: Iced lemon verbena"
        let called = found.len() > 2 && found[0].is(&["drink", "recipe", "name", "title"]);
        if called && found[1].is(&[":"]) && !self.begun() {
            self.title = Some(text[found[1].to..].trim().to_owned());
            return self.shown(line, Sure::Understood);
        }
        // "This month: RHUBARB FIZZ"
        let colon = found.iter().position(|w| w.is(&[":"])).filter(|at| (1..=4).contains(at));
        let behind = colon.map_or("", |at| &text[found[at].to..]);
        if !self.begun() && self.title.is_none() && is_shouted(behind) {
            self.title = Some(behind.trim().to_owned());
            return self.shown(line, Sure::Understood);
        }
        if let Some(behind) = self.title_in_front(text, &found) {
            let title = text[..behind].trim().trim_end_matches([':', '.', '-', '–', '—']).trim();
            self.title = Some(title.to_owned());
            self.behind(line, offset + behind);
            return;
        }
        let kind = self.kind(line, text, &found, marked);
        let at = self.lines.len();
        if matches!(kind, Kind::List | Kind::Method) {
            self.told.extend(told_in(text).map(|words| (at, words)));
        }
        let sure = match kind {
            Kind::Blank => Sure::Aside,
            Kind::Title => self.read_title(text, &found),
            Kind::Heading(section, group) => self.read_heading(section, group, &found),
            Kind::Makes => {
                // "Prep time: 15 mins | Serves: 6": minutes are no glasses.
                let from = found
                    .iter()
                    .position(|w| w.is(&["serving", "serves", "yield", "makes"]))
                    .filter(|at| {
                        let timed = |n: usize| time(&found[n..]).is_some();
                        says(&found, &["time"]) || (0..*at).any(timed)
                    });
                self.read_makes(&found[from.unwrap_or(0)..]);
                Sure::Understood
            }
            Kind::List => self.read_list(at, &found),
            Kind::Method => {
                let shown = self.read_method(at, line, offset, text);
                return self.lines.push(shown);
            }
            Kind::Aside => {
                self.aside.push(text.trim().to_owned());
                Sure::Aside
            }
        };
        self.shown(line, sure);
    }

    /// A line that is read as a whole.
    fn shown(&mut self, line: &str, sure: Sure) {
        let runs = vec![Run { text: line.to_owned(), sure }];
        self.lines.push(PastedLine { runs, read: Vec::new() });
    }

    fn read_title(&mut self, text: &str, found: &[Word]) -> Sure {
        let front = front(found);
        let behind = &found[front..];
        let mut title = text;
        // "(3 ingredients)", "(two ways)" are no glasses.
        let makes = says(behind, &MAKES)
            || (0..behind.len()).any(|at| said::plain(&behind[at..]).is_some());
        if !behind.is_empty() {
            let before = self.makes.clone();
            if makes {
                self.read_makes(behind);
            }
            // "Mint lemonade (cups of 200 ml)"
            self.sizes.take(behind);
            // How much it makes isn't what it is called.
            if self.makes != before {
                title = &text[..found[front].from];
            }
        }
        self.title = Some(title.trim().trim_end_matches([':', '.']).to_owned());
        Sure::Understood
    }

    fn read_heading(&mut self, section: Section, group: Option<String>, found: &[Word]) -> Sure {
        // "Per glass:" before anything else is what the drink is made of, one glass at a time.
        let one = section == Section::Glass && !self.begun();
        if one {
            self.makes.glasses = Some(1);
        }
        self.section = if one { Section::List } else { section };
        self.group = group;
        // "Ingredients (for one gallon)", "Ingredients for 1.5 litres"
        let front = front(found);
        let front = if found.get(1).is_some_and(|w| w.is(&["for"])) { front.min(1) } else { front };
        if front < found.len() {
            self.read_makes(&found[front..]);
        }
        Sure::Understood
    }

    /// "For 10 litres of lemonade: 45 lemons, …", "40 cups of 200 ml: 24 oranges, …": where that ends which says how
    /// much it makes.
    fn makes_in_front(&self, found: &[Word]) -> Option<usize> {
        let at = found.iter().position(|w| w.is(&[":"])).filter(|at| (2..=8).contains(at))?;
        let front = &found[..at];
        let sized = front[0].is(&["for"])
            && said::plain(&front[1..]).is_some_and(|(a, _)| a.as_millilitres().is_some());
        let glasses = ["cup", "glass", "glasses", "serving", "portion", "people", "drink"];
        let poured =
            number(front).is_some_and(|(_, used)| front.get(used).is_some_and(|w| w.is(&glasses)));
        // A text says so once; after that it is no size.
        let once = found.len() > at + 4 && self.makes == Makes::default();
        (once && (self.is_makes(front) || sized || poured)).then_some(at)
    }

    /// "Syrup: 2 cups sugar, 1 cup water, boil 5 min": where the part of the recipe ends that it is for.
    fn part_in_front(&self, found: &[Word]) -> Option<usize> {
        const PARTS: [&str; 8] =
            ["syrup", "base", "tea", "infusion", "then", "lemonade", "concentrate", "tisane"];
        let titled = self.title.is_some() || self.begun();
        let counts = |rest: &[Word]| (0..rest.len()).any(|at| said::plain(&rest[at..]).is_some());
        let headed = found.len() > 4 && found[0].is(&PARTS) && found[1].is(&[":"]);
        (titled && headed && counts(&found[2..])).then_some(1)
    }

    /// Whether something goes in by now, or is done.
    fn begun(&self) -> bool {
        !self.entries.is_empty() || !self.done.is_empty()
    }

    /// Reads what stands behind a title or a size as a line of its own.
    fn behind(&mut self, line: &str, at: usize) {
        let (front, rest) = line.split_at(at);
        self.line(rest);
        if let Some(last) = self.lines.last_mut() {
            last.runs.insert(0, Run { text: front.to_owned(), sure: Sure::Understood });
        }
    }

    /// "Ginger shrub. Grate the ginger …", "Cold tea: 6 tsp leaves …": where the title of a text that stands in one
    /// line ends.
    fn title_in_front(&self, text: &str, found: &[Word]) -> Option<usize> {
        let begun = self.title.is_some() || self.begun();
        if found.is_empty() || begun || self.section != Section::Open || self.is_makes(found) {
            return None;
        }
        let end = found.iter().enumerate().position(|(at, w)| {
            let dash = w.is(&["-", "–", "—"]) && at > 0 && found[at - 1].to < w.from;
            w.is(&[":", "."]) || (dash && found.get(at + 1).is_some_and(|next| next.from > w.to))
        })?;
        let (front, rest) = (&found[..end], &found[end + 1..]);
        let behind = found[end].to;
        let named = self.names.find(front);
        let only_named = named.as_ref().is_some_and(|n| n.at.len() == front.len());
        let title = (1..=8).contains(&front.len())
            && rest.len() > 6
            && text[behind..].starts_with(' ')
            && (front.iter().all(|w| !w.text.starts_with(|c: char| c.is_ascii_digit()))
                || front[0].is(&["how"]) && front.get(1).is_some_and(|w| w.is(&["to"])))
            && !front[0].is(&["for", "to", "note", "tip", "time", "prep", "total", "makes", "active"])
            && (front.iter().any(|w| w.is(&DRINKS))
                || named.is_some() && !only_named
                || number(rest).is_some() && found[end].is(&[":"]) && !only_named)
            && !front.iter().any(|w| w.is(&[";", ",", "need"]))
            && heading(&text[..found[end].from], front).is_none()
            // "Cold brew hibiscus: …" brews nothing yet.
            && (front.iter().any(|w| w.is(&DRINKS)) || method::doings(front, self.names).is_empty());
        title.then_some(behind)
    }

    fn kind(&self, line: &str, text: &str, found: &[Word], marked: bool) -> Kind {
        if let Some(kind) = self.by_its_words(text, found) {
            return kind;
        }
        let it = Line::of(self, (line, text), found, marked);
        if self.section != Section::Glass && self.tells_on(&it) {
            return Kind::Method;
        }
        match self.in_its_section(&it) {
            Some(kind) => kind,
            None if self.is_title(&it) => Kind::Title,
            None => self.anywhere(&it),
        }
    }

    /// What a line is by a few words of it, whatever stands around.
    fn by_its_words(&self, text: &str, found: &[Word]) -> Option<Kind> {
        if found.iter().all(Word::is_sign) {
            return Some(Kind::Blank);
        }
        // "{{recipe}}", "</ul>"
        if text.trim_start().starts_with("{{") || text.trim_start().starts_with("</") {
            return Some(Kind::Aside);
        }
        let first = &found[0];
        if let Some(heading) = heading(text, found) {
            return Some(heading);
        }
        let begun = self.title.is_some() || !self.entries.is_empty();
        if self.heads_part && begun && matches!(self.section, Section::Open | Section::List) {
            return Some(Kind::Heading(Section::List, Some(text.trim().to_lowercase())));
        }
        if self.is_makes(found) {
            return Some(Kind::Makes);
        }
        // "Subject: that lime thing"
        const OF_A_LETTER: [&str; 7] = ["subject", "re", "fwd", "from", "to", "date", "sent"];
        if !self.begun() && first.is(&OF_A_LETTER) && found.get(1).is_some_and(|w| w.is(&[":"])) {
            return Some(Kind::Aside);
        }
        if !self.begun() && found.len() <= 5 && doubt::is_greeting(text) {
            return Some(Kind::Aside);
        }
        let timing = [
            "time",
            "active",
            "prep",
            "preparation",
            "total",
            "cooking",
            "cook",
            "ready",
            "difficulty",
            "calories",
            "source",
            "author",
        ];
        let timed = first.is(&timing) && found.get(1).is_some_and(|w| w.is(&["time", ":"]));
        if timed && says(found, &["serving", "serves", "yield", "makes"]) {
            return Some(Kind::Makes);
        }
        let short = found.len() < 12
            && first.is(&timing)
            && found.iter().any(|w| w.is(&["time", ":", "in", "kcal"]))
            && !says(found, &["the"]);
        if timed || short {
            return Some(Kind::Aside);
        }
        // "Note: don't let it stand longer, or it turns bitter."
        let remark = first.is(&["note", "tip", "nb", "storage", "variation", "warning", "ps"])
            && found.get(1).is_some_and(|w| w.is(&[":", "-", "–", "."]));
        if self.section == Section::Aside || remark {
            return Some(Kind::Aside);
        }
        // "For each glass, 60 ml syrup, ice, and fill up with soda": how a glass is filled, once the ingredients are read.
        if !self.entries.is_empty() && is_of_each_glass(found) {
            return Some(Kind::Aside);
        }
        None
    }

    /// Whether a line that counts something out goes on with what is done.
    fn tells_on(&self, it: &Line<'_>) -> bool {
        let &Line { text, found, known, .. } = it;
        // "Four cups of water and blend it all up" is more than a line of the list.
        let done_to_it = known
            && found.windows(3).any(|w| {
                w[0].is(&["and", "then", ","])
                    && verb_of(&w[1].text).is_some_and(|v| v != Verb::Squeeze)
                    && w[2].is(&["it", "them", "everything", "all"])
            });
        // "One cucumber and 700 ml water into the blender. Strain, chill, top up with soda."
        let told_on = known
            && self.section == Section::Open
            && sentences(text).iter().skip(1).any(|(_, sentence)| {
                let rest = words(sentence);
                rest.len() > 2 && verb_at(&rest, 0).is_some()
            });
        done_to_it || told_on
    }

    /// What it is in the part of the text that it stands in.
    fn in_its_section(&self, it: &Line<'_>) -> Option<Kind> {
        let &Line { text, found, marked, known, counted, orders, sentence, .. } = it;
        let doings = &it.doings;
        match self.section {
            Section::Glass => {
                let told = !doings.is_empty() && !counted && (orders || sentence);
                Some(if told { Kind::Method } else { Kind::Aside })
            }
            Section::Method => {
                if counted && known && doings.is_empty() && found.len() < 14 {
                    return Some(Kind::List);
                }
                // "For each 500 ml of it 300 g sugar": what is measured out isn't left aside.
                let measured =
                    known && (0..found.len()).any(|at| said::plain(&found[at..]).is_some());
                Some(if doings.is_empty() && !measured { Kind::Aside } else { Kind::Method })
            }
            Section::List if known || counted => {
                // "In a small pan, combine the sugar and the water. Bring to the boil."
                let told = orders || (sentence && doings.len() > 1);
                // "2) Squeeze the limes."
                let ends = marked && orders && text.trim_end().ends_with('.');
                Some(if told && !counted && (sentence || found.len() > 8 || ends) {
                    Kind::Method
                } else {
                    Kind::List
                })
            }
            _ => None,
        }
    }

    /// Whether it is what the drink is called.
    fn is_title(&self, it: &Line<'_>) -> bool {
        let &Line { line, text, found, marked, known, counted, orders, sentence, .. } = it;
        let doings = &it.doings;
        // "Lemonade for a hot day" is no line of the list, though it names a fruit.
        let untitled = self.title.is_none() && !self.begun();
        // "Ginger cordial (makes 1.2 litres)", "Lemonade | 1 gallon": what is said behind is how much it makes.
        let front = front(found);
        if untitled && front < found.len() && front > 0 && number(found).is_none() && front <= 9 {
            let named = list::items(&found[..front], self.names);
            let measured = ["gallon", "litre", "liter", "l", "ml", "quart", "kg", "g", "lb"];
            let makes = found[front..].iter().any(|w| w.is(&MAKES) || w.is(&measured));
            if makes && named.iter().all(|i| !i.said) {
                return true;
            }
        }
        let title_like = untitled
            && (!counted || !known && found.len() <= 6)
            && !marked
            && found.len() <= 12
            && (!sentence
                || doings.is_empty() && is_capital(text.split(',').next().unwrap_or(text)))
            && !text.contains(": ")
            && !text.ends_with(':');
        let says_how_much = it.says_how_much();
        let headed = line.trim_start().starts_with("# ");
        // "Cold brew mint tea lemonade", "Mint tea for the fridge"
        let what_for = found.iter().position(|w| w.is(&["for"])).unwrap_or(found.len());
        let called = &found[..what_for];
        let called_a_drink = called.last().is_some_and(|w| w.is(&DRINKS))
            && !says(called, &["the", "into", "in", "with", "to", "until"]);
        if title_like
            && (!orders || found.len() <= 4 || is_capital(text) || headed || called_a_drink)
            && !(says_how_much && (doings.len() > 1 || counted))
        {
            // "Then maybe half a cup of sugar"
            let goes_on = found[0].is(&["then", "and", "plus", "also"]) && says_how_much;
            let amount_inside = (0..found.len()).any(|at| {
                found[at].text.starts_with(|c: char| c.is_ascii_digit())
                    && number(&found[at..]).is_some_and(|(_, used)| {
                        keen_core::quantity::said::measure(&found[at + used..]).is_some()
                    })
            });
            // "So lime soda, you take four limes"
            let told = says(found, &["take", "need", "use", "squeeze", "juice"]);
            let amount_inside = amount_inside || (says_how_much && told && !doings.is_empty());
            return !amount_inside && !goes_on;
        }
        false
    }

    /// What it is where nothing before it says so.
    fn anywhere(&self, it: &Line<'_>) -> Kind {
        let &Line { found, marked, known, counted, orders, sentence, .. } = it;
        let (items, doings) = (&it.items, &it.doings);
        let says_how_much = it.says_how_much();
        let untitled = self.title.is_none() && !self.begun();
        if known
            && !doings.is_empty()
            && (orders || (sentence && found.len() > 9))
            && !(counted && found.len() < 12 && !sentence)
        {
            return Kind::Method;
        }
        let listed = counted
            || marked
            || (found.len() <= 9 && !sentence)
            || items.len() > 2
            || (says_how_much && found.len() <= 14);
        if known && listed && (counted || !orders) {
            return Kind::List;
        }
        // "a bunch of sweet woodruff, wilted overnight"
        let measured = number(found)
            .and_then(|(_, used)| keen_core::quantity::said::measure(found.get(used..)?))
            .is_some();
        let a_thing = measured && !orders && !sentence && found.len() <= 12;
        if !a_thing && !doings.is_empty() && (orders || sentence || found.len() > 6) {
            return Kind::Method;
        }
        if (counted || (marked && self.section == Section::List)) && found.len() <= 12 && !sentence
        {
            return Kind::List;
        }
        // "Zitronensaft 80 ml": what it is has to be asked, but it is counted out.
        let measured = (0..found.len()).any(|at| said::plain(&found[at..]).is_some());
        // "Flesh of half of it": of what, has to be asked.
        let parts = ["flesh", "juice", "zest", "peel", "rind", "leaves", "seeds"];
        let of_it =
            says(found, &parts) && (0..found.len()).any(|at| number(&found[at..]).is_some());
        let listed = (!self.entries.is_empty() || self.title.is_some()) && self.done.is_empty();
        if of_it && listed && doings.is_empty() && !sentence && found.len() <= 8 {
            return Kind::List;
        }
        let short = found.len()
            <= if self.within_a_list {
                14
            } else if measured {
                8
            } else {
                5
            };
        let listed = (known || (measured && (marked || !untitled))) && short;
        if (listed || self.within_a_list && short) && doings.is_empty() && !sentence {
            Kind::List
        } else {
            Kind::Aside
        }
    }

    fn is_makes(&self, found: &[Word]) -> bool {
        let start = found.iter().take(3).any(|w| {
            w.is(&[
                "serves", "serving", "makes", "yield", "yields", "servings", "portions",
                "quantity", "amount", "fills", "gives",
            ]) || w.text == "serve"
        });
        // "Makes about 1.5 litres of squash, to be thinned 1 to 5": what comes after the amount doesn't count.
        let few = found.len() <= if found[0].is(&["makes"]) { 16 } else { 10 };
        let counted = (0..found.len())
            .any(|at| number(&found[at..]).is_some_and(|_| !found[at].is(&["a", "an"])));
        let people = found.len() <= 6
            && found[0].is(&["for"])
            && says(found, &["people", "person", "glass", "glasses", "guest", "serving", "drink"]);
        // "For 2 quarts:"
        let sized = found[0].is(&["for"])
            && said::plain(&found[1..]).is_some_and(|(amount, used)| {
                amount.as_millilitres().is_some() && found[1 + used..].iter().all(Word::is_sign)
            });
        // "Batch: 4 l"
        let batch = found[0].is(&["batch", "volume", "total"])
            && found.get(1).is_some_and(|w| w.is(&[":", "size"]))
            && found.len() <= 8
            && (1..found.len()).any(|at| {
                said::plain(&found[at..]).is_some_and(|(a, _)| a.as_millilitres().is_some())
            });
        // "About 3 cups", under the title
        let about = found[0].is(&["about", "approximately", "approx", "roughly", "around"])
            && !self.begun()
            && said::plain(&found[1..]).is_some_and(|(amount, used)| {
                amount.as_millilitres().is_some() && found[1 + used..].iter().all(Word::is_sign)
            });
        // "For the fair: 20 litres of blackcurrant squash at 1:5."
        let batch_of = !self.begun()
            && found.len() <= 14
            && found[0].is(&["for"])
            && (1..found.len()).any(|at| {
                said::plain(&found[at..]).is_some_and(|(amount, used)| {
                    let of = &found[at + used..];
                    amount.as_millilitres().is_some()
                        && of.first().is_some_and(|w| w.is(&["of"]))
                        && of.iter().take(5).any(|w| w.is(&DRINKS))
                })
            });
        // "For 2", under the title
        let only = found.len() == 2
            && found[0].is(&["for"])
            && number(&found[1..]).is_some()
            && !self.begun();
        sized
            || batch_of
            || only
            || about
            || batch
            || (start
                && few
                && counted
                && found[0].text != "serve"
                && !says(found, &["over", "with", "ice"]))
            || (people && counted)
    }

    fn read_makes(&mut self, found: &[Word]) {
        let mut at = 0;
        while at < found.len() {
            if let Some((amount, used)) = said::plain(&found[at..])
                && let Some(grams) = amount.as_grams()
            {
                self.makes.grams = Some(grams);
                at += used;
            } else if let Some((amount, used)) = said::plain(&found[at..])
                && amount.as_millilitres().is_some()
                && !keen_core::quantity::said::number(&found[at..])
                    .and_then(|(_, n)| found.get(at + n))
                    .is_some_and(|w| w.is(&["glass", "glasses", "cup", "cups"]))
            {
                let each = self.makes.glasses.is_some()
                    && (says(&found[at..], &["each"]) || says(&found[..at], &["of", "x", "×"]));
                if each {
                    self.makes.glass = Some(amount)
                } else {
                    self.makes.volume = Some(amount)
                }
                at += used;
            } else if let Some((many, used)) = number(&found[at..])
                && !found[at].is(&["a", "an"])
                && (1.0..=2000.0).contains(&many.low)
            {
                self.makes.glasses.get_or_insert(many.low.round().max(1.0) as u32);
                at += used;
            } else {
                at += 1;
            }
        }
    }

    fn read_list(&mut self, at: usize, found: &[Word]) -> Sure {
        let mut items = list::items(found, self.names);
        let mut worst = Sure::Understood;
        if items.is_empty() && self.within_a_list {
            items.push(Item::asked(found, None));
        }
        if items.is_empty() {
            self.aside.push(join(found));
            return Sure::Aside;
        }
        unused::mark_unknown(&mut items, found, self.names);
        for item in items {
            worst = worst.max(item.sure);
            self.enter(at, item);
        }
        worst
    }

    fn enter(&mut self, line: usize, item: Item) {
        if self.entries.len() >= MOST_THINGS {
            return;
        }
        let entry = Entry {
            key: making::next_key(&self.entries, line),
            line,
            // What may stay out, and isn't known for sure, stays out until it is said.
            left_out: item.optional && item.sure == Sure::Asked,
            item,
            group: self.group.clone(),
            told: false,
        };
        self.entries.push(entry);
    }

    /// The sentences of a line of the method, each by itself.
    fn read_method(&mut self, at: usize, line: &str, offset: usize, text: &str) -> PastedLine {
        let mut runs: Vec<Run> = Vec::new();
        let mut upto = 0;
        let mut mark = |from: usize, to: usize, sure: Sure| {
            if from > upto {
                runs.push(Run { text: line[upto..from].to_owned(), sure: Sure::Aside });
            }
            if to > from.max(upto) {
                runs.push(Run { text: line[from.max(upto)..to].to_owned(), sure });
                upto = to;
            }
        };
        let mut spoken_of: Option<Word> = None;
        for (begin, sentence) in sentences(text) {
            let mut found = with_verbs(part_by_part(joined_by_words(said::meant(sentence))));
            found.truncate(MOST_WORDS);
            if found.is_empty() {
                continue;
            }
            said::without_its_size(&mut found);
            said::of_what(&mut found, spoken_of.as_ref());
            if let Some(named) = self.names.find_all(&found).last() {
                spoken_of = named.at.last().map(|at| found[*at].clone());
            }
            if self.is_for_the_glass(&found) {
                self.aside.push(sentence.trim().to_owned());
                // What is only told for the glass isn't missed in the jug.
                let begins =
                    |told: &[Word]| told.iter().zip(&found).take(4).all(|(a, b)| a.text == b.text);
                self.told.retain(|(line, told)| *line != at || !begins(told));
                continue;
            }
            if self.is_makes(&found) {
                self.read_makes(&found);
                mark(offset + begin, offset + begin + sentence.len(), Sure::Understood);
                continue;
            }
            // "… and then into the fridge, makes four glasses"
            let tail = (4..found.len())
                .find(|n| found[*n].is(&["makes", "serves"]) && self.is_makes(&found[*n..]));
            if let Some(tail) = tail.filter(|_| self.makes == Makes::default()) {
                self.read_makes(&found[tail..]);
                found.truncate(tail);
            }
            let mut doings = method::doings(&found, self.names);
            if found[0].is(&["after"]) && doings.first().is_some_and(|d| self.has_waited(d)) {
                doings.remove(0);
            }
            if doings.is_empty() {
                let items = self.counted_out(&found);
                if items.is_empty() {
                    if found.len() > 1 {
                        self.aside.push(sentence.trim().to_owned());
                    }
                } else {
                    let sure = items.iter().map(|i| i.sure).max().unwrap_or(Sure::Aside);
                    items.into_iter().for_each(|item| self.enter(at, item));
                    mark(offset + begin, offset + begin + sentence.len(), sure);
                }
                continue;
            }
            let mut aside_from = 0;
            for doing in doings {
                mark(offset + begin + doing.from, offset + begin + doing.to, how_sure(&doing));
                aside_from = doing.to;
                self.is_done(at, doing);
            }
            let rest = sentence[aside_from..].trim_matches(|c: char| !c.is_alphanumeric());
            if !rest.is_empty() {
                self.aside.push(rest.to_owned());
            }
        }
        if upto < line.len() {
            runs.push(Run { text: line[upto..].to_owned(), sure: Sure::Aside });
        }
        PastedLine { runs, read: Vec::new() }
    }

    /// "Leave it for a day. After a day, strain": that is the same day.
    fn has_waited(&self, doing: &Doing) -> bool {
        let last = self.done.last().and_then(|done| done.doing.minutes);
        doing.verb == Verb::Steep && doing.minutes.is_some() && doing.minutes == last
    }

    fn is_done(&mut self, line: usize, doing: Doing) {
        for words in &doing.unknown {
            list::items(words, self.names).into_iter().for_each(|item| self.enter(line, item));
        }
        self.done.push(Done { line, doing });
    }

    /// A sentence that does nothing may still say what goes in: "You need 6 lemons and 200 g sugar", "A pint of
    /// currants, bruised with half a pound of sugar".
    fn counted_out(&self, found: &[Word]) -> Vec<Item> {
        let counts = |n: usize| {
            found[n].text.starts_with(|c: char| c.is_ascii_digit())
                || said::plain(&found[n..]).is_some()
        };
        if !(0..found.len()).any(counts) {
            return Vec::new();
        }
        let mut items = list::items(found, self.names);
        items.retain(|i| i.ingredient.is_some() || i.amount.is_some());
        // "The plums are three weeks late" counts no plums.
        if items.iter().any(|i| i.said || i.fills) { items } else { Vec::new() }
    }

    /// Whether a sentence says how it is drunk, how it was once drunk, or how much there should be by now.
    fn is_for_the_glass(&self, found: &[Word]) -> bool {
        // "To drink: 1 part syrup to 4 parts fizzy water", "Dilute 1:4 with soda"
        let to_drink = found.len() > 2
            && found[0].is(&["to"])
            && found[1].is(&["drink", "serve"])
            && found[2].is(&[":", ",", "mix", "dilute"]);
        let in_parts = self.entries.iter().any(|e| {
            let terms = e.item.amount.iter().flat_map(|a| a.terms());
            terms.into_iter().any(|t| t.measure == Measure::Part)
        });
        // "30 ml in a glass topped up with soda", once the making is told.
        let in_a_glass = !self.done.is_empty()
            && number(found).is_some()
            && says(found, &["glass", "glasses"])
            && method::doings(found, self.names).is_empty();
        let for_each = !self.entries.is_empty() && is_of_each_glass(found);
        // "We used to have it with fizzy water. Your father put gin in his."
        const REMEMBERED: [&[&str]; 4] =
            [&["used", "to", "have"], &["used", "to", "drink"], &["in", "his"], &["in", "hers"]];
        let next_time = self.begun() && together(found, &["next", "time"]);
        let remembered =
            next_time || self.begun() && REMEMBERED.iter().any(|phrase| together(found, phrase));
        // "Stir 2 tablespoons into a glass of sparkling water."
        let in_one_glass = self.begun()
            && found.windows(4).any(|w| {
                w[0].is(&["into", "in"])
                    && w[1].is(&["a", "each"])
                    && w[2].is(&["glass", "tumbler"])
                    && w[3].is(&["of"])
            });
        // "You should have about 300 ml."
        let should_be = found.len() > 2
            && found[0].is(&["you", "there"])
            && found[1].is(&["should", "will"])
            && found[2].is(&["have", "be", "get", "end"]);
        let thinned = thinned(found) && !in_parts;
        // "Mix 30 ml with 150 ml soda to serve."
        let amounts = (1..found.len()).filter(|at| said::plain(&found[*at..]).is_some()).count();
        let mixed = self.begun()
            && found[0].is(&["mix", "use", "dilute", "stir", "combine", "allow"])
            && together(found, &["to", "serve"])
            && amounts > 1;
        // "Some people put rum in"
        let others = found.len() > 2
            && found[0].is(&["some", "other", "most", "many"])
            && found[1].is(&["people", "folk", "folks"]);
        to_drink
            || in_a_glass
            || mixed
            || others
            || for_each
            || thinned
            || remembered
            || in_one_glass
            || should_be
    }

    /// Nothing is made of a text that is no recipe: it is only shown.
    fn nothing(mut self) -> Pasted {
        for run in self.lines.iter_mut().flat_map(|line| &mut line.runs) {
            run.sure = Sure::Aside;
        }
        self.entries.clear();
        self.done.clear();
        self.told.clear();
        self.title = None;
        let read = self.finish(&[]);
        Pasted { doubt: Some(NO_RECIPE.to_owned()), ..read }
    }

    /// Asks about what is named and in no way in the drink.
    fn ask_about_missed(&mut self) {
        let items = self.entries.iter().map(|e| &e.item);
        let had = missed::Had::of(items, self.names.cupboard);
        for missed in missed::missed(&self.told, had, self.names) {
            if missed.laid_on {
                self.aside.push(format!("To serve: {}", join(&missed.words)));
                continue;
            }
            let why = vec!["We couldn't tell what is done with this, so we left it out.".into()];
            self.enter(missed.line, Item { why, ..Item::asked(&missed.words, None) });
        }
        let of_entry = |e: &Entry| {
            let item = &e.item;
            [item.amount.clone(), item.other.clone(), item.per.clone()].into_iter().flatten()
        };
        let of_doing = |d: &Done| {
            let shares = d.doing.uses.iter().filter_map(|u| match &u.share {
                uses::Share::Amount(amount) => Some(amount.clone()),
                _ => None,
            });
            let told = [&d.doing.amount, &d.doing.fills_to, &d.doing.per].into_iter().flatten();
            shares.chain(told.cloned()).collect::<Vec<_>>()
        };
        let known: Vec<Amount> = self
            .entries
            .iter()
            .flat_map(of_entry)
            .chain(self.done.iter().flat_map(of_doing))
            .chain(self.makes.volume.clone())
            .chain(self.makes.glass.clone())
            .collect();
        let had = self.entries.iter().flat_map(|e| &e.item.words).map(|w| w.stem.clone()).collect();
        let title = words(self.title.as_deref().unwrap_or_default());
        // A drink is named by its last words: "Quince cordial", "Nimbu pani".
        let title = title.into_iter().rev().take(2).map(|w| w.stem).collect();
        for missed in missed::unnamed(&self.told, (&had, &title), self.names) {
            let why = vec!["We don't know an ingredient with this name.".into()];
            self.enter(missed.line, Item { why, ..Item::asked(&missed.words, None) });
        }
        let read: Vec<(usize, &[Word])> =
            self.entries.iter().map(|e| (e.line, e.item.words.as_slice())).collect();
        for missed in missed::uncounted(&self.told, &known, &read) {
            let why = vec!["We couldn't tell what this amount is of, so we left it out.".into()];
            self.enter(missed.line, Item { why, ..Item::asked(&missed.words, None) });
        }
    }

    /// Amounts in hundredths of the whole, which is as much as the text says, or a kilogram.
    fn share_out(&mut self) {
        let shares = || self.entries.iter().filter_map(|e| e.item.share);
        // "Water to 100 %" is what is left.
        let rest = shares()
            .find(|share| *share >= 100.0)
            .map(|_| (100.0 - shares().filter(|share| *share < 100.0).sum::<f64>()).max(0.0));
        let sum: f64 = shares().filter(|share| *share < 100.0).sum::<f64>() + rest.unwrap_or(0.0);
        let several = shares().count() > 1;
        if !several || !(98.0..=102.0).contains(&sum) {
            return;
        }
        let grams =
            self.makes.grams.or_else(|| Some(self.makes.volume.as_ref()?.as_millilitres()? * 1.03));
        for item in self.entries.iter_mut().map(|e| &mut e.item) {
            let Some(share) = item.share.map(|s| rest.filter(|_| s >= 100.0).unwrap_or(s)) else {
                continue;
            };
            item.amount =
                Some(Amount::grams(kitchen_round(grams.unwrap_or(1000.0) * share / 100.0)));
            item.fills = false;
            item.why.clear();
            item.sure = Sure::Understood;
            if grams.is_none() {
                guess(item, "The recipe is in percent: we made 1 kg of it.".into());
            }
        }
        self.makes = Makes::default();
    }

    /// A pint is another one on the other side of the ocean; cups and quarts tell on which side it was written.
    fn whose_pints(&mut self) {
        let measures = |e: &Entry| -> Vec<Measure> {
            let terms = e.item.amount.iter().flat_map(|a| a.terms());
            terms.into_iter().map(|t| t.measure.clone()).collect()
        };
        let american = |m: &Measure| matches!(m, Measure::Cup | Measure::Quart);
        if self.entries.iter().any(|e| measures(e).iter().any(american)) {
            return;
        }
        for entry in &mut self.entries {
            let Some([term]) = entry.item.amount.as_ref().map(Amount::terms) else { continue };
            if term.measure == Measure::Pint && entry.item.other.is_none() {
                entry.item.other = Some(Amount::millilitres((term.value * 568.0).round()));
                guess(&mut entry.item, WHOSE_PINT.into());
            }
        }
    }

    fn finish(mut self, choices: &[Choice]) -> Pasted {
        let cupboard = self.names.cupboard;
        making::resolve(&mut self.entries, &mut self.done, self.names);
        making::only_served(&mut self.entries, &self.done);
        self.ask_about_missed();
        self.entries.truncate(MOST_THINGS);
        self.share_out();
        self.whose_pints();
        for entry in &mut self.entries {
            if let Some(meant) = entry.item.amount.as_ref().and_then(|a| self.sizes.apply(a)) {
                entry.item.amount = Some(meant);
            }
        }
        let chosen = |key: &str| choices.iter().rev().find(|c| c.key == key);
        let mut differs = Vec::new();
        for entry in &mut self.entries {
            let which = chosen(&amount_key(entry)).and_then(|c| c.chosen).unwrap_or(0).min(1);
            differs.extend(two_amounts(entry, which, cupboard));
            if let Some(choice) = chosen(&entry.key) {
                choose(entry, choice, cupboard);
            }
        }
        let which = chosen("makes").and_then(|c| c.chosen);
        let made = making::make(
            &self.entries,
            &self.done,
            &self.makes,
            self.title.as_deref(),
            which,
            cupboard,
        );
        differs.extend(made.differs);
        let mut drink = made.drink;
        if let Some(ml) = self.sizes.part {
            drink.part = Some(Amount::millilitres(ml));
        }
        // What is for the glass stands in the note of what is put up in bottles.
        let poured = drink.steps.iter().any(|s| matches!(s.action, Action::Serve { .. }));
        // So does what is poured on at the table, as much as one likes: "sparkling water, to serve".
        let liquid = |e: &Entry| {
            let it = e.item.ingredient.as_deref().and_then(|id| cupboard.ingredient(id));
            it.is_some_and(|it| it.form == Form::Liquid)
        };
        let stays_out = |e: &&Entry| {
            let on_the_glass = e.item.garnish && (!poured || liquid(e));
            e.item.ingredient.is_none() || e.left_out || on_the_glass
        };
        for entry in self.entries.iter().filter(stays_out) {
            self.aside.push(join(&entry.item.words));
        }
        self.aside.extend(made.left);
        drink.note = note(&self.aside);
        let things: Vec<Thing> =
            self.entries.iter().map(|entry| thing(entry, self.names)).collect();
        self.show(&things);
        for (line, what) in made.read {
            if let Some(line) = self.lines.get_mut(line) {
                line.read.push(what);
            }
        }
        Pasted { lines: self.lines, things, differs, drink, guesses: made.guesses, doubt: None }
    }

    /// Tells beside each line what was read from it, and marks what is asked about.
    fn show(&mut self, things: &[Thing]) {
        for entry in things {
            if let Some(line) = self.lines.get_mut(entry.line) {
                let amount = entry.amount.as_ref().map_or_else(String::new, |a| format!("{a} "));
                let name = entry.name.clone().unwrap_or_else(|| "?".into()).to_lowercase();
                line.read.push(format!("{amount}{name}"));
                // What was said since is understood.
                if line.runs.len() == 1 && line.runs[0].sure != Sure::Aside {
                    line.runs[0].sure = things
                        .iter()
                        .filter(|t| t.line == entry.line)
                        .map(|t| t.sure)
                        .max()
                        .unwrap_or(entry.sure);
                }
            }
        }
        // What is asked about stands marked in its sentence.
        for (entry, asked) in self.entries.iter().zip(things) {
            if asked.sure == Sure::Asked
                && let Some(line) = self.lines.get_mut(entry.line)
            {
                line.mark_asked(&entry.item.words);
            }
        }
    }
}

fn how_sure(doing: &Doing) -> Sure {
    let guessed = doing.loose || doing.uses.iter().any(|u| u.share == uses::Share::Some);
    match (doing.unknown.is_empty(), guessed) {
        (false, _) => Sure::Asked,
        (_, true) => Sure::Guessed,
        (_, false) => Sure::Understood,
    }
}

fn amount_key(entry: &Entry) -> String {
    format!("{}/amount", entry.key)
}

/// The choice between two amounts that are given of one thing; `which` of them is taken.
fn two_amounts(entry: &mut Entry, which: usize, cupboard: &Cupboard) -> Option<Differs> {
    let (one, other) = (entry.item.amount.clone()?, entry.item.other.clone()?);
    let it = entry.item.ingredient.as_deref().and_then(|id| cupboard.ingredient(id));
    let name = it.map_or_else(|| "it".to_owned(), |it| it.name.to_lowercase());
    let pints = entry.item.why.iter().find(|why| *why == WHOSE_PINT);
    let differs = Differs {
        message: pints
            .cloned()
            .unwrap_or_else(|| format!("The recipe gives two amounts of {name}.")),
        key: amount_key(entry),
        choices: vec![one.to_string(), other.to_string()],
        chosen: which,
    };
    if which == 1 {
        entry.item.amount = Some(other);
    }
    Some(differs)
}

/// The words of each sentence, but for those that say how it is drunk.
fn told_in(text: &str) -> impl Iterator<Item = Vec<Word>> + '_ {
    let all = sentences(text).into_iter().map(|(_, sentence)| {
        let mut found = as_meant(words(sentence));
        said::without_its_size(&mut found);
        found
    });
    all.filter(|found| {
        let drunk = found.len() > 2 && found[0].is(&["to"]) && found[1].is(&["drink", "serve"]);
        !drunk && !thinned(found)
    })
}

fn choose(entry: &mut Entry, choice: &Choice, cupboard: &Cupboard) {
    if let Some(id) = &choice.ingredient
        && let Some(it) = cupboard.ingredient(id)
    {
        entry.item.ingredient = Some(id.clone());
        entry.left_out = false;
        let fits = entry.item.amount.as_ref().is_some_and(|a| cupboard.weigh(it, a).is_ok());
        if !fits && !entry.item.fills {
            entry.item.amount = Some(cupboard.usual_amount(it));
            entry.item.why = vec![NOT_CONVERTED.into()];
            entry.item.sure = Sure::Guessed;
        } else {
            entry.item.why.clear();
            entry.item.sure = Sure::Understood;
        }
    }
    if let Some(amount) = &choice.amount {
        entry.item.amount = Some(amount.clone());
        if entry.item.ingredient.is_some() {
            entry.item.sure = Sure::Understood;
            entry.item.why.clear();
        }
    }
    if let Some(left_out) = choice.left_out {
        entry.left_out = left_out;
        if entry.item.ingredient.is_some() && !left_out && entry.item.optional {
            entry.item.sure = Sure::Understood;
            entry.item.why.clear();
        }
    }
}

fn thing(entry: &Entry, names: &Names<'_>) -> Thing {
    let Item { ingredient, words, amount, sure, why, fills, instead, .. } = &entry.item;
    let it = ingredient.as_deref().and_then(|id| names.cupboard.ingredient(id));
    let offer =
        |it: &keen_core::cupboard::Ingredient| Offer { id: it.id.clone(), name: it.name.clone() };
    let mut offers: Vec<Offer> =
        instead.iter().filter_map(|id| names.cupboard.ingredient(id)).map(offer).collect();
    if *sure != Sure::Understood || ingredient.is_none() {
        let more =
            names.nearest(words).into_iter().filter(|near| it.is_none_or(|it| it.id != near.id));
        offers.extend(more.map(offer));
        offers.dedup();
        offers.truncate(4);
    }
    Thing {
        key: entry.key.clone(),
        line: entry.line,
        words: join(words),
        ingredient: ingredient.clone(),
        name: it.map(|it| it.name.clone()),
        amount: amount.clone(),
        fills: *fills,
        sure: *sure,
        why: why.clone(),
        offers,
        left_out: entry.left_out,
    }
}

/// The words as they stood, with single spaces.
fn join(words: &[Word]) -> String {
    let mut text = String::new();
    let mut last = 0;
    let mut again = false;
    for word in words {
        // What is said once more takes no room in the text.
        let said_again = std::mem::replace(&mut again, word.from == word.to) || again;
        if !text.is_empty() && (word.from != last || said_again) {
            text.push(' ');
        }
        text.push_str(&word.written);
        last = word.to;
    }
    text
}

/// What was left aside, as much of it as a note holds; it is said where something had to be cut.
fn note(aside: &[String]) -> String {
    let mut note = String::new();
    for line in aside.iter().filter(|l| !l.is_empty()) {
        if note.chars().count() + line.chars().count() + 2 > limits::NOTE - 4 {
            note.push_str("\n…");
            break;
        }
        if !note.is_empty() {
            note.push('\n');
        }
        note.push_str(line);
    }
    note.chars().filter(|c| !c.is_control() || *c == '\n').collect()
}
