//! Every starting point, poured as a row of each kind.

#![allow(clippy::unwrap_used, reason = "a test that cannot go on fails")]

use keen_core::cupboard::Cupboard;
use keen_core::quantity::Units;
use keen_core::taste::ladder::{Moves, Row, ladder};

fn kinds(ids: [&str; 3]) -> Vec<String> {
    ids.map(str::to_owned).to_vec()
}

#[test]
fn what_is_held_is_held_within_a_hundredth_in_rows_of_every_starting_point() {
    let (mut poured, mut refused) = (0, Vec::new());
    for start in keen_formats::starting_points() {
        for moves in [
            Moves::Sugar,
            Moves::Acid,
            Moves::Strength,
            Moves::Steep,
            Moves::Sweetener(kinds(["white_sugar", "honey", "agave_syrup"])),
            Moves::Souring(kinds(["lemon_juice", "lime_juice", "citric_acid"])),
        ] {
            let row = Row {
                drink: start.drink.clone(),
                glasses: if moves.words().is_none() { 3 } else { 5 },
                moves: moves.clone(),
                step: 1.25,
                middle: None,
                sample_ml: 60.0,
                tasters: 4,
                units: Units::AsWritten,
            };
            let what = format!("{}, {moves:?}", start.drink.name);
            match ladder(&row, Cupboard::builtin()) {
                Ok(found) => {
                    let off = found.held.iter().map(|held| held.off()).fold(0.0, f64::max);
                    assert!(off < 0.01, "{what}: {:.2} %", off * 100.0);
                    poured += 1;
                }
                Err(fault) => refused.push(format!("{what}: {}", fault.message)),
            }
        }
    }
    assert!(poured >= 90, "{poured}; {refused:#?}");
    // Who is refused is told why: there is nothing to drink, nothing steeped, or more than one thing moves.
    for message in &refused {
        let known = ["nothing to drink", "steeps nothing", "vary only one thing"];
        assert!(known.iter().any(|words| message.contains(words)), "{message}");
    }
}
