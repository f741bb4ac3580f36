//! What goes out comes in again: a drink's own file to the letter, cards and web recipes to the place on the map.

use keen_core::balance::Profile;
use keen_core::cupboard::Cupboard;
use keen_core::drink::Drink;
use keen_core::report::DrinkReport;
use keen_core::scale::{Size, resize};
use keen_formats::pasted::read_recipe;
use keen_formats::{
    CardStyle, EarlierDrink, card, read_drink, read_earlier, recipe_in, recipe_ld, starting_points,
    write_drink, write_drink_with,
};
use proptest::prelude::*;

fn ended(drink: &Drink) -> Option<Profile> {
    DrinkReport::of(drink, Cupboard::builtin()).profile
}

/// Everything that a drink is written as for people and for other programs.
fn written(drink: &Drink) -> [(&'static str, String); 3] {
    let report = DrinkReport::of(drink, Cupboard::builtin());
    [
        ("web recipe", recipe_in(&recipe_ld(drink, &report, "")).expect("it is a recipe")),
        ("Markdown", card(drink, &report, CardStyle::Markdown)),
        ("text", card(drink, &report, CardStyle::Text)),
    ]
}

/// A card says in words what the file says in figures. Read again it is the same drink to the tongue: a tenth is
/// what is just noticed of sweetness, and 15 % of acidity.
#[test]
fn a_card_that_is_read_again_tastes_the_same() {
    // Words don't carry these: how much of a stock is used while the rest is kept, and soda by parts of what is in the
    // glass.
    const NOT_IN_WORDS: [&str; 2] = ["Rich syrup", "Soda by parts"];
    let mut read_again = 0;
    for start in starting_points() {
        let Some(was) = ended(&start.drink) else { continue };
        if NOT_IN_WORDS.contains(&start.name) {
            continue;
        }
        for (how, text) in written(&start.drink) {
            let read = read_recipe(&text, &[], Cupboard::builtin());
            assert_eq!(read.drink.name, start.drink.name, "{how}");
            let is = ended(&read.drink).unwrap_or_else(|| panic!("{} by {how}", start.name));
            let times = |is: f64, was: f64| if was < 0.03 { 1.0 } else { is / was };
            let sweeter = times(is.sweetness_percent, was.sweetness_percent);
            let sharper = times(is.acidity_percent, was.acidity_percent);
            assert!(
                (sweeter - 1.0).abs() < 0.08 && (sharper - 1.0).abs() < 0.08,
                "{} by {how}: {sweeter:.2} times as sweet, {sharper:.2} times as sharp\n{text}",
                start.name
            );
            read_again += 1;
        }
    }
    assert!(read_again >= 45, "{read_again}");
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 40, ..ProptestConfig::default() })]

    /// A drink's own file says all of it, at any size, with any name and note.
    #[test]
    fn a_drinks_file_is_the_drink(
        nth in 0..64_usize,
        factor in 0.05..60.0_f64,
        name in "[^\\p{C}\\s][^\\p{C}]{0,60}",
        note in "[^\\p{C}]{0,200}",
        earlier in 0..4_i64,
    ) {
        let cupboard = Cupboard::builtin();
        let mut starts = starting_points();
        let nth = nth % starts.len();
        let plain = starts.swap_remove(nth).drink;
        let mut drink = resize(&plain, cupboard, &Size::Factor(factor)).unwrap_or(plain);
        drink.name = name.trim().to_owned();
        drink.note = note;
        prop_assume!(drink.check(cupboard).is_empty());
        let file = write_drink(&drink);
        let again = read_drink(file.as_bytes(), cupboard).unwrap();
        prop_assert_eq!(&again, &drink);
        // Written again it is the same to the letter.
        prop_assert_eq!(write_drink(&again), file);
        // The first that is kept is version 1.
        let all: Vec<EarlierDrink> = (1..=earlier)
            .map(|version| EarlierDrink {
                version,
                since: format!("2030-01-0{version}T10:00:00Z"),
                name: String::new(),
                made: version % 2,
                drink: serde_json::to_value(&drink).unwrap(),
            })
            .collect();
        let whole = write_drink_with(&drink, &all);
        prop_assert_eq!(read_drink(whole.as_bytes(), cupboard).unwrap(), drink);
        prop_assert_eq!(read_earlier(whole.as_bytes()), all);
    }

    /// However a card is called and whatever is noted on it, it can be read, and nothing that goes in is lost.
    #[test]
    fn a_card_with_any_name_is_read(nth in 0..64_usize, name in "[A-Z][a-z]{2,12}( [a-z]{2,12}){0,3}") {
        let mut starts = starting_points();
        let nth = nth % starts.len();
        let mut drink = starts.swap_remove(nth).drink;
        drink.name = name;
        for (how, text) in written(&drink) {
            let read = read_recipe(&text, &[], Cupboard::builtin());
            prop_assert_eq!(read.drink.check(Cupboard::builtin()), [], "{} {}", how, text);
            let brought = |d: &Drink| d.steps.iter().filter(|s| s.action.brings().is_some()).count();
            prop_assert!(brought(&read.drink) + 1 >= brought(&drink) / 2, "{how} {text}");
        }
    }
}
