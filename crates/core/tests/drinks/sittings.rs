//! Sittings: stages, what may be said when, and what is read off.

use keen_core::cupboard::Cupboard;
use keen_core::quantity::Units;
use keen_core::taste::compare::Method;
use keen_core::taste::find::Finding;
use keen_core::taste::ideal::Felt;
use keen_core::taste::ladder::{Moves, Row, ladder};
use keen_core::taste::sitting::{Compared, Sitting, Stage, Table, Tasted, Utterance};
use keen_core::taste::tongue::glass_to_guess;

use crate::tasting::demo;

fn row(blind: bool, tasters: usize) -> Sitting {
    let row = Row {
        drink: demo("tamarind-cooler"),
        moves: Moves::Sugar,
        glasses: 5,
        step: 1.25,
        middle: None,
        sample_ml: 60.0,
        tasters: tasters as u32,
        units: Units::AsWritten,
    };
    let ladder = ladder(&row, Cupboard::builtin()).unwrap();
    let tasters = (0..tasters).map(|i| format!("t{i}")).collect();
    Sitting { kind: Tasted::Ladder { row, ladder }, tasters, seed: 12, dealt: None, blind }
}

fn answered(taster: &str, code: &str, felt: Felt) -> Utterance {
    Utterance::Answered {
        taster: taster.into(),
        code: code.into(),
        felt: Some(felt),
        liked: Some(5),
    }
}

#[test]
fn stages_follow_from_what_was_said() {
    let sitting = row(true, 2);
    let stage = |said: &[Utterance]| Table::of(&sitting, said).stage();
    assert_eq!(stage(&[]), Stage::Pouring);
    assert_eq!(stage(&[Utterance::Poured]), Stage::Sealed);
    assert_eq!(stage(&[Utterance::Poured, Utterance::Broken]), Stage::Over);
    let open = row(false, 2);
    assert_eq!(Table::of(&open, &[Utterance::Poured]).stage(), Stage::Open);
    let allows =
        |said: &[Utterance], word: &Utterance| Table::of(&sitting, said).allows(word).is_ok();
    assert!(!allows(&[], &Utterance::Broken));
    assert!(!allows(&[Utterance::Poured], &Utterance::Poured));
    assert!(allows(&[Utterance::Poured], &Utterance::Broken));
    assert!(!allows(&[Utterance::Poured], &Utterance::Gone));
}

#[test]
fn the_last_word_of_a_glass_counts_and_what_is_taken_back_does_not() {
    let sitting = row(true, 2);
    let code = Table::of(&sitting, &[]).key()[0].code.clone();
    let mut said = vec![
        Utterance::Poured,
        answered("t0", &code, Felt::Low),
        answered("t0", &code, Felt::High),
    ];
    let felt = |said: &[Utterance]| {
        let seat = Table::of(&sitting, said).seats().remove(0);
        seat.glasses.iter().find(|g| g.code == code).unwrap().felt
    };
    assert_eq!(felt(&said), Some(Felt::High));
    said.push(Utterance::TakenBack { of: 2 });
    assert_eq!(felt(&said), Some(Felt::Low));
    // Only answers are taken back, not that it was poured.
    let back = Utterance::TakenBack { of: 0 };
    assert!(Table::of(&sitting, &said).allows(&back).is_err());
}

#[test]
fn nothing_is_told_while_it_is_sealed() {
    let sitting = row(true, 1);
    let key = Table::of(&sitting, &[]).key();
    let mut said = vec![Utterance::Poured];
    let felt = [Felt::FarLow, Felt::Low, Felt::Right, Felt::High, Felt::FarHigh];
    said.extend(key.iter().map(|line| answered("t0", &line.code, felt[line.glass])));
    let table = Table::of(&sitting, &said);
    assert_eq!(table.tells(), Default::default());
    assert!(table.sips().iter().all(Vec::is_empty));
    said.push(Utterance::Broken);
    let table = Table::of(&sitting, &said);
    let ideal = &table.tells().ideals[0];
    let Tasted::Ladder { ladder, .. } = &sitting.kind else { unreachable!() };
    let middle = ladder.glasses[2].x.unwrap();
    assert!((ideal.ideal.x - middle).abs() < 0.15, "{} and {middle}", ideal.ideal.x);
    assert_eq!(table.sips()[0].len(), 5);
}

#[test]
fn every_six_triangles_of_a_table_are_served_each_way_once() {
    let compared = Compared {
        method: Method::Triangle,
        first: "one".into(),
        second: "other".into(),
        more: String::new(),
        times: 2,
        sample_ml: 60.0,
    };
    let tasters: Vec<String> = (0..6).map(|i| format!("t{i}")).collect();
    let sitting =
        Sitting { kind: Tasted::Compare(compared), tasters, seed: 5, dealt: None, blind: true };
    let key = Table::of(&sitting, &[]).key();
    for nth in 0..2 {
        let mut ways: Vec<Vec<usize>> = (0..6)
            .map(|i| {
                let mine = key.iter().filter(|l| l.nth == nth && l.taster == Some(format!("t{i}")));
                mine.map(|line| line.glass).collect()
            })
            .collect();
        ways.sort();
        ways.dedup();
        assert_eq!(ways.len(), 6);
    }
    // Those who chose the odd one are counted right, the others not.
    let mut said = vec![Utterance::Poured];
    for i in 0..6 {
        let id = Some(format!("t{i}"));
        let mine: Vec<_> = key.iter().filter(|l| l.nth == 0 && l.taster == id).collect();
        let odd = mine.iter().find(|l| mine.iter().filter(|o| o.glass == l.glass).count() == 1);
        let twin = mine.iter().find(|l| mine.iter().filter(|o| o.glass == l.glass).count() == 2);
        let line = if i < 4 { odd } else { twin }.unwrap();
        said.push(Utterance::Chose {
            taster: format!("t{i}"),
            code: line.code.clone(),
            nth: None,
            tried: None,
        });
    }
    said.push(Utterance::Broken);
    let verdict = Table::of(&sitting, &said).tells().verdict.unwrap();
    assert_eq!((verdict.right, verdict.tastings), (4, 6));
}

#[test]
fn a_row_of_kinds_tells_only_how_good_they_are() {
    let mut sitting = row(false, 1);
    let row = Row {
        drink: demo("tamarind-cooler"),
        moves: Moves::Sweetener(vec!["white_sugar".into(), "honey".into()]),
        glasses: 2,
        step: 1.25,
        middle: None,
        sample_ml: 60.0,
        tasters: 1,
        units: Units::AsWritten,
    };
    let found = ladder(&row, Cupboard::builtin()).unwrap();
    sitting.kind = Tasted::Ladder { row, ladder: found };
    let code = Table::of(&sitting, &[]).key()[1].code.clone();
    let said = [Utterance::Poured];
    let table = Table::of(&sitting, &said);
    assert_eq!(table.allows(&answered("t0", &code, Felt::Low)).unwrap_err().field, "word.felt");
    let good =
        |liked| Utterance::Answered { taster: "t0".into(), code: code.clone(), felt: None, liked };
    assert!(table.allows(&good(Some(8))).is_ok());
    assert_eq!(table.allows(&good(Some(0))).unwrap_err().field, "word.liked");
    assert_eq!(table.allows(&good(None)).unwrap_err().field, "word");
    let said = [Utterance::Poured, good(Some(8))];
    let tells = Table::of(&sitting, &said).tells();
    assert_eq!((tells.liked[1].mean, tells.liked[1].many), (8.0, 1));
    assert!(tells.ideals.is_empty());
}

fn compared(method: Method) -> Sitting {
    let compared = Compared {
        method,
        first: "one".into(),
        second: "other".into(),
        more: "sweeter".into(),
        times: 4,
        sample_ml: 60.0,
    };
    Sitting {
        kind: Tasted::Compare(compared),
        tasters: vec!["t0".into()],
        seed: 31,
        dealt: None,
        blind: true,
    }
}

#[test]
fn of_a_trio_the_twin_of_the_known_glass_is_right_and_the_known_one_is_no_answer() {
    let sitting = compared(Method::DuoTrio);
    let key = Table::of(&sitting, &[]).key();
    let mut said = vec![Utterance::Poured];
    for nth in 0..4 {
        let set: Vec<_> = key.iter().filter(|line| line.nth == nth).collect();
        assert_eq!(set.len(), 3);
        let chose = |code: &str| Utterance::Chose {
            taster: "t0".into(),
            code: code.into(),
            nth: None,
            tried: None,
        };
        let known = chose(&set[0].code);
        assert_eq!(Table::of(&sitting, &said).allows(&known).unwrap_err().field, "word.code");
        let twin = set[1..].iter().find(|line| line.glass == set[0].glass).unwrap();
        let other = set[1..].iter().find(|line| line.glass != set[0].glass).unwrap();
        // Three of four are right.
        let chosen = chose(if nth < 3 { &twin.code } else { &other.code });
        Table::of(&sitting, &said).allows(&chosen).unwrap();
        said.push(chosen);
    }
    let seat = Table::of(&sitting, &said).seats().remove(0);
    assert!(seat.finished && seat.glasses.is_empty() && seat.done == 4);
    said.push(Utterance::Broken);
    let verdict = Table::of(&sitting, &said).tells().verdict.unwrap();
    assert_eq!((verdict.right, verdict.tastings), (3, 4));
}

#[test]
fn of_pairs_it_is_counted_how_often_the_first_drink_was_chosen() {
    let sitting = compared(Method::Pairs);
    let key = Table::of(&sitting, &[]).key();
    let mut said = vec![Utterance::Poured];
    for nth in 0..4 {
        let wanted = usize::from(nth == 3);
        let line = key.iter().find(|line| line.nth == nth && line.glass == wanted).unwrap();
        assert_eq!(line.name, ["one", "other"][wanted]);
        said.push(Utterance::Chose {
            taster: "t0".into(),
            code: line.code.clone(),
            nth: None,
            tried: None,
        });
    }
    said.push(Utterance::Broken);
    let verdict = Table::of(&sitting, &said).tells().verdict.unwrap();
    assert_eq!((verdict.right, verdict.tastings), (3, 4));
    assert!(verdict.words.starts_with("3 of 4 chose the same one"), "{}", verdict.words);
}

#[test]
fn a_guess_is_told_by_how_far_off_it_was_once_the_key_is_broken() {
    let finding = Finding { sour: "lemon_juice".into(), units: Units::AsWritten };
    let sitting = Sitting {
        kind: Tasted::Guess(finding),
        tasters: vec!["t0".into()],
        seed: 8,
        dealt: None,
        blind: true,
    };
    let guess = |ratio, is| Utterance::Guessed { taster: "t0".into(), ratio, is };
    let mut said = vec![Utterance::Poured];
    let refused = Table::of(&sitting, &said).allows(&guess(f64::INFINITY, 0.0)).unwrap_err();
    assert_eq!(refused.field, "word.ratio");
    said.extend([guess(16.0, 16.0), guess(22.0, 20.0)]);
    assert!(Table::of(&sitting, &said).tells().guesses.is_empty(), "sealed");
    assert_eq!(Table::of(&sitting, &said).seats()[0].done, 2);
    said.push(Utterance::Broken);
    let guesses = Table::of(&sitting, &said).tells().guesses;
    assert!(guesses[0].off < 1e-9 && (guesses[1].off - 1.0).abs() < 1e-9, "{guesses:?}");
}

#[test]
fn the_next_glass_to_guess_is_never_the_one_just_drunk() {
    for sour in ["lemon_juice", "citric_acid"] {
        let finding = Finding { sour: sour.into(), units: Units::AsWritten };
        for seed in 0..12 {
            let spoons: Vec<[u32; 3]> = (0..6)
                .map(|nth| glass_to_guess(&finding, nth, seed, Cupboard::builtin()).unwrap().spoons)
                .collect();
            for two in spoons.windows(2) {
                assert_ne!(two[0], two[1], "{sour}, {seed}: {spoons:?}");
            }
        }
    }
}

#[test]
fn a_balance_is_found_from_what_was_mixed_and_a_slip_is_taken_back() {
    let finding = Finding { sour: "lemon_juice".into(), units: Units::AsWritten };
    let sitting = Sitting {
        kind: Tasted::Find(finding),
        tasters: vec!["t0".into()],
        seed: 8,
        dealt: None,
        blind: false,
    };
    let mixed = |ratio: f64, felt| Utterance::Mixed {
        taster: "t0".into(),
        spoons: [8, 8, 8],
        x: ratio.ln(),
        felt,
    };
    let middle = |said: &[Utterance]| Table::of(&sitting, said).tells().ideals[0].middle;
    let mut said = vec![mixed(16.0, Felt::Low), mixed(22.0, Felt::Right), mixed(28.0, Felt::High)];
    let before = middle(&said);
    assert!((20.0..24.0).contains(&before), "{before}");
    said.push(mixed(20.0, Felt::FarHigh));
    assert!(middle(&said) < before);
    said.push(Utterance::TakenBack { of: 3 });
    assert!((middle(&said) - before).abs() < 1e-9);
    assert_eq!(Table::of(&sitting, &said).seats()[0].done, 3);
}
