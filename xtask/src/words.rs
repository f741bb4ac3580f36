//! What a person reads: every string of the screens, the sentences and the errors, in one list to be read from top to
//! bottom; and a check for turns that nobody uses in a kitchen.
//!
//! The list is read off the code, not kept: a string is what is between quotation marks, or in a screen plain text
//! between tags, and has at least three words. The API's descriptions are read off its file.

use std::path::{Path, PathBuf};

use anyhow::{Context, Result, bail};

/// Turns that we don't use, in small letters, and what to say instead.
const TURNS: [(&str, &str); 55] = [
    ("it came out otherwise", "Something went differently"),
    ("fell where nine in ten", "were within the expected range"),
    ("sits at this table", "is in this tasting"),
    ("break the key", "reveal the glasses"),
    ("key is broken", "the glasses are revealed"),
    ("won't do", "Enter A to B"),
    ("nobody says that", "name what can be chosen"),
    ("nothing comes of", "say what is wrong with the amounts"),
    ("after all", "leave it out"),
    ("by as much as", "a typical amount"),
    ("are the most.", "Enter up to …"),
    ("is no drink of", "isn't a drink"),
    ("will have to be said", "Say which"),
    ("has to be said", "Say which"),
    ("put it right", "correct it"),
    ("in two goes", "in 2 rounds"),
    ("times what is just noticed", "noticeable steps"),
    ("on the ring", "on the burner"),
    ("a touch ", "slightly"),
    ("too sharp", "too sour"),
    ("the bin", "deleted drinks"),
    ("the whole house", "everything"),
    ("let in now", "connect"),
    ("nothing is left to do", "all steps are done"),
    ("a little of ", "name the amount"),
    ("are told ", "say who tells"),
    ("is told ", "say who tells"),
    ("as it is kept", "unchanged"),
    ("by itself", "automatically"),
    ("handwork", "hands-on"),
    ("is to be ", "use a verb"),
    ("it has begun", "started"),
    ("learnt", "saved to your kitchen"),
    ("let stand", "leave, or steep"),
    ("nobody says", "name what can be chosen"),
    ("on the go", "in progress"),
    ("over its date", "past its date"),
    ("practice run", "practice batch"),
    ("put in again", "add again"),
    ("put out", "disconnect"),
    ("shut out", "disconnect"),
    ("sits down", "is in this tasting"),
    ("so much of ", "name the amount"),
    ("stand-in", "simulated instrument"),
    ("take back", "undo"),
    ("taken back", "undone"),
    ("the one who", "the taster, the reader"),
    ("the own ", "your own"),
    ("throw away", "discard, or delete"),
    ("thrown away", "discarded, or deleted"),
    ("tip away", "discard"),
    ("when to begin", "when to start"),
    ("who tastes", "the taster"),
    ("whoever", "you"),
    ("keeps back", "holds"),
];

/// A string, and where it stands.
struct Said {
    file: PathBuf,
    line: usize,
    text: String,
}

/// Prints all strings, with where they stand.
pub(crate) fn print() -> Result<()> {
    let mut last = PathBuf::new();
    for said in all()? {
        if said.file != last {
            println!("\n{}", said.file.display());
            last.clone_from(&said.file);
        }
        println!("{:>5}  {}", said.line, said.text);
    }
    Ok(())
}

/// Whether no string has a turn that we don't use.
pub(crate) fn check() -> Result<()> {
    let mut found = Vec::new();
    let all = all()?;
    if all.len() < 1000 {
        bail!("only {} strings were found in the code", all.len());
    }
    for said in all {
        let small = said.text.to_lowercase();
        for (turn, better) in TURNS.iter().filter(|(turn, _)| small.contains(turn)) {
            let place = format!("{}:{}", said.file.display(), said.line);
            found.push(format!("{place}: “{}” says “{turn}”; better: {better}", said.text));
        }
    }
    if found.is_empty() { Ok(()) } else { bail!("words that nobody uses:\n{}", found.join("\n")) }
}

fn all() -> Result<Vec<Said>> {
    let mut files = Vec::new();
    files_in(Path::new("web/src"), &["ts", "tsx"], &mut files)?;
    files_in(Path::new("crates"), &["rs"], &mut files)?;
    files.retain(|file| {
        let path = file.to_string_lossy();
        !path.contains("/tests/")
            && !path.ends_with("/tests.rs")
            && !path.contains(".test.")
            && !path.ends_with("schema.ts")
    });
    files.sort();
    let mut said = Vec::new();
    for file in files {
        let text = std::fs::read_to_string(&file)
            .with_context(|| format!("{} can't be read", file.display()))?;
        let own = text.split("#[cfg(test)]").next().unwrap_or_default();
        let tags = file.extension().is_some_and(|e| e == "tsx");
        for (line, text) in strings(own, tags) {
            said.push(Said { file: file.clone(), line, text });
        }
    }
    said.extend(descriptions()?);
    Ok(said)
}

/// What the API's description tells, each sentence once.
fn descriptions() -> Result<Vec<Said>> {
    let file = PathBuf::from("docs/openapi.json");
    let text = std::fs::read_to_string(&file).context("docs/openapi.json can't be read")?;
    let mut found: Vec<Said> = Vec::new();
    for (number, line) in text.lines().enumerate() {
        let Some((_, rest)) = line.split_once("\"description\": \"") else { continue };
        let text = rest.trim_end_matches(',').trim_end_matches('"').replace("\\n", " ");
        if is_said(&text) && found.iter().all(|said| said.text != text) {
            found.push(Said { file: file.clone(), line: number + 1, text });
        }
    }
    Ok(found)
}

fn files_in(folder: &Path, ends: &[&str], found: &mut Vec<PathBuf>) -> Result<()> {
    for entry in std::fs::read_dir(folder)?.flatten() {
        let path = entry.path();
        if path.is_dir() {
            files_in(&path, ends, found)?;
        } else if path.extension().and_then(|e| e.to_str()).is_some_and(|e| ends.contains(&e)) {
            found.push(path);
        }
    }
    Ok(())
}

/// The strings of a file and their lines: in quotation marks, and where there are `tags`, plain lines of text between
/// them.
fn strings(text: &str, tags: bool) -> Vec<(usize, String)> {
    let mut found = Vec::new();
    let mut open: Option<(char, usize, String)> = None;
    for (number, line) in text.lines().enumerate() {
        let trimmed = line.trim_start();
        let comment =
            trimmed.starts_with("//") || trimmed.starts_with("/*") || trimmed.starts_with("* ");
        if open.is_none() && comment {
            continue;
        }
        if open.is_none() && tags && is_plain(trimmed) {
            found.push((number + 1, trimmed.to_owned()));
            continue;
        }
        let mut letters = line.chars();
        while let Some(c) = letters.next() {
            match &mut open {
                Some((mark, from, said)) if c == *mark => {
                    found.push((*from, std::mem::take(said)));
                    open = None;
                }
                Some((_, _, said)) if c == '\\' => {
                    if let Some(next) = letters.next() {
                        said.push(next);
                    }
                }
                Some((_, _, said)) => said.push(c),
                None if c == '"' || c == '`' => open = Some((c, number + 1, String::new())),
                None => {}
            }
        }
        if let Some((_, _, said)) = &mut open {
            said.push(' ');
        }
        // A quotation mark by itself (a character, an inch) isn't the beginning of a page.
        if open.as_ref().is_some_and(|(_, from, _)| number + 1 > from + 12) {
            open = None;
        }
    }
    let words = |text: &str| text.split_whitespace().collect::<Vec<_>>().join(" ");
    found
        .into_iter()
        .map(|(line, text)| (line, words(&text)))
        .filter(|(_, text)| is_said(text))
        .collect()
}

/// A line of text between tags.
fn is_plain(line: &str) -> bool {
    let code = [';', '=', '(', ')', '<', '>', '|', '/', '"', '`', '['];
    // `name: value,` and `name,` are of an object or a list of arguments.
    let first = line.split_whitespace().next().unwrap_or_default();
    let argument = line.ends_with(['{', '}']) || (first.ends_with(':') && line.ends_with(','));
    let statement = ["import ", "export ", "return ", "type ", "default:"];
    line.starts_with(|c: char| c.is_alphabetic() || c == '“')
        && !argument
        && !line.contains(code)
        && !statement.iter().any(|word| line.starts_with(word))
}

/// Whether a person may read it: three words, and not the inside of a program.
fn is_said(text: &str) -> bool {
    let words = text.split(' ').filter(|w| w.chars().any(char::is_alphabetic)).count();
    let code = [
        "SELECT ",
        "INSERT ",
        "UPDATE ",
        "DELETE FROM",
        "CREATE ",
        "PRAGMA",
        "=>",
        "&&",
        "||",
        "/api/",
        " NOT NULL",
        " DESC",
        " LIMIT ",
        " WHERE ",
        "1fr",
        "px ",
        "colour(",
        "ms, ",
        ".toFixed(",
        "${x",
        "::",
        "Mui",
    ];
    words >= 3 && !code.iter().any(|part| text.contains(part)) && text.len() < 600
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn strings_and_plain_text_are_found_and_comments_are_not() {
        let text = "/// A comment that nobody reads.\nlet a = \"Enter 1 to 5 glasses.\";\n      Leave the pot alone.\nlet b = \"id\";\nlet c = \"one \\\n    two three\";";
        let found: Vec<String> = strings(text, true).into_iter().map(|(_, text)| text).collect();
        assert_eq!(found, ["Enter 1 to 5 glasses.", "Leave the pot alone.", "one two three"]);
    }
}
