//! Recipes as people write them: a corpus with what should be read from each line, and texts of any sort.

use keen_core::cupboard::Cupboard;
use keen_core::drink::Action;
use keen_core::report::DrinkReport;
use keen_core::trace::Trace;
use keen_formats::pasted::{ANYWAY, Choice, MOST_CHARACTERS, Pasted, Sure, read_recipe};
use proptest::prelude::*;

/// Each recipe of the corpus, its lines with what should be read from them behind `=>`: what goes in by id and
/// amount (`~` where it is guessed, `?` where it is asked) and what is done; `#` for titles and headings, `-`
/// for what is left aside.
const CORPUS: &str = include_str!("recipes.txt");

fn corpus() -> Vec<(String, Vec<(String, String)>)> {
    let recipes = CORPUS.split("=== ").skip(1).map(|recipe| {
        let (name, body) = recipe.split_once('\n').expect("a name, then lines");
        let lines = body.trim_end().lines().map(|line| match line.split_once(" => ") {
            Some((text, wanted)) => (text.to_owned(), wanted.to_owned()),
            None => (line.to_owned(), String::new()),
        });
        (name.to_owned(), lines.collect())
    });
    recipes.collect()
}

/// What was read from a line, as the corpus writes it.
fn read_from(read: &Pasted, line: usize) -> String {
    let runs = &read.lines[line].runs;
    if runs.iter().all(|r| r.text.trim().is_empty()) {
        return String::new();
    }
    let mark = |sure| match sure {
        Sure::Understood => "",
        Sure::Guessed => "~",
        _ => "?",
    };
    let things = read.things.iter().filter(|t| t.line == line).map(|t| {
        let amount = t.amount.as_ref().map(ToString::to_string).unwrap_or_default();
        format!("{}{} {amount}", mark(t.sure), t.ingredient.as_deref().unwrap_or_default())
            .trim()
            .to_owned()
    });
    let mut all: Vec<String> = things.collect();
    all.extend(read.lines[line].read.iter().skip(all.len()).cloned());
    match all.is_empty() {
        true if runs.iter().all(|r| r.sure == Sure::Aside) => "-".into(),
        true => "#".into(),
        false => all.join("; "),
    }
}

fn text_of(lines: &[(String, String)]) -> String {
    lines.iter().map(|(text, _)| text.as_str()).collect::<Vec<_>>().join("\n")
}

#[test]
fn recipes_in_many_hands_are_read_right_or_marked() {
    let (mut right, mut marked, mut wrong) = (0, 0, Vec::new());
    let recipes = corpus();
    assert!(recipes.len() >= 180, "{}", recipes.len());
    for (name, lines) in &recipes {
        let read = read_recipe(&text_of(lines), &[], Cupboard::builtin());
        for (at, (text, wanted)) in
            lines.iter().enumerate().filter(|(_, (_, wanted))| !wanted.is_empty())
        {
            let found = read_from(&read, at);
            if found == *wanted {
                right += 1;
            } else if read.lines[at]
                .runs
                .iter()
                .any(|r| r.sure != Sure::Understood && !r.text.trim().is_empty())
            {
                marked += 1;
                println!("marked: {name}: “{text}” should be {wanted}, and is {found}");
            } else {
                wrong.push(format!("{name}: “{text}” should be {wanted}, and is {found}"));
            }
        }
    }
    let all = right + marked + wrong.len();
    println!(
        "{right} of {all} lines of {} recipes are read right, {marked} of the rest are marked",
        recipes.len()
    );
    assert!(right as f64 >= 0.95 * all as f64, "{right} of {all}");
    assert!(wrong.is_empty(), "{}", wrong.join("\n"));
}

/// What comes of it is a drink that one would pour: it can be carried out, nothing overflows, and what is drunk
/// isn't syrup or water.
#[test]
fn what_was_read_is_a_drink() {
    for (name, lines) in corpus() {
        let read = read_recipe(&text_of(&lines), &[], Cupboard::builtin());
        assert_eq!(read.drink.check(Cupboard::builtin()), [], "{name}");
        let report = DrinkReport::of(&read.drink, Cupboard::builtin());
        let profile = report.profile.unwrap_or_else(|| panic!("{name} is nothing to drink"));
        assert!(profile.volume_ml > 50.0, "{name}");
        let over =
            report.frames.iter().flat_map(|f| &f.notices).find(|n| n.message.contains("brim"));
        assert_eq!(over, None, "{name}");
        let syrup = read.drink.family == keen_core::drink::Family::Syrup;
        assert!(syrup || profile.brix < 32.0, "{name}: {} °Bx", profile.brix);
        // Everything that was read and isn't for the glass is in it.
        for thing in read.things.iter().filter(|t| !t.left_out && t.ingredient.is_some()) {
            let id = thing.ingredient.as_deref().unwrap();
            let text = serde_json::to_string(&read.drink.steps).unwrap();
            let on_the_glass = ["ice"].contains(&id);
            let poured_on = syrup || thing.amount.is_none();
            let noted = poured_on && read.drink.note.contains(&thing.words);
            let there = text.contains(&format!("\"{id}\"")) || on_the_glass || noted;
            assert!(there, "{name}: {id} is lost");
        }
    }
}

/// Every letter of the text stands in some line, whatever was read from it.
fn nothing_is_lost(text: &str, read: &Pasted) {
    let shown: Vec<String> =
        read.lines.iter().map(|l| l.runs.iter().map(|r| r.text.as_str()).collect()).collect();
    let lines: Vec<&str> = text.lines().take(shown.len()).collect();
    assert_eq!(shown, lines);
}

#[test]
fn what_was_said_of_it_is_taken() {
    let text = "Elderflower lemonade\n4 lemons\n1 cup (350 g) sugar\n1 l water\nbit of that elderflower stuff if you have it";
    let read = read_recipe(text, &[], Cupboard::builtin());
    let flower = read.things.iter().find(|t| t.sure == Sure::Asked).unwrap();
    assert!(
        flower.left_out && read.drink.note.contains("elderflower stuff"),
        "{}",
        read.drink.note
    );
    assert_eq!(read.differs[0].choices, ["1 cup", "350 g"]);
    let said = [
        Choice {
            key: flower.key.clone(),
            ingredient: Some("rose_water".into()),
            amount: Some("1 tbsp".parse().unwrap()),
            ..Choice::default()
        },
        Choice { key: read.differs[0].key.clone(), chosen: Some(1), ..Choice::default() },
        Choice { key: read.things[0].key.clone(), left_out: Some(true), ..Choice::default() },
        Choice { key: "no such thing".into(), chosen: Some(7), ..Choice::default() },
    ];
    let again = read_recipe(text, &said, Cupboard::builtin());
    let text = serde_json::to_string(&again.drink.steps).unwrap();
    assert!(
        text.contains("rose_water") && text.contains("1 tbsp") && text.contains("350 g"),
        "{text}"
    );
    assert!(!text.contains("lemon_juice"), "{text}");
    assert!(
        again.drink.note.contains("4 lemons") && !again.drink.note.contains("stuff"),
        "{}",
        again.drink.note
    );
}

#[test]
fn two_things_that_the_text_says_are_put_side_by_side() {
    let text = "Serves 6\n6 lemons\n200 g sugar\nwater to make 3 litres";
    let read = read_recipe(text, &[], Cupboard::builtin());
    assert_eq!(read.differs.len(), 1, "{:?}", read.differs);
    assert_eq!(read.differs[0].choices, ["3 l", "1500 ml"]);
    let volume = |read: &Pasted| {
        DrinkReport::of(&read.drink, Cupboard::builtin()).profile.unwrap().volume_ml
    };
    assert!((2900.0..3001.0).contains(&volume(&read)));
    let choice = Choice { key: "makes".into(), chosen: Some(1), ..Choice::default() };
    let other = read_recipe(text, &[choice], Cupboard::builtin());
    assert!((1400.0..1501.0).contains(&volume(&other)));
}

/// Of a language that the cupboard doesn't speak every line that counts something out is asked about.
#[test]
fn another_language_is_asked_about_and_nothing_is_lost() {
    for (text, counted) in [
        ("Limo, per 1 L:\n- Zitronensaft 80 ml\n- Zucker 90 g\n- Wasser auf 1 L", 3),
        ("Bissap\n8 tasses de eau\n3/4 tasse de sucre\nFaire bouillir 10 minutes et filtrer.", 2),
    ] {
        let read = read_recipe(text, &[], Cupboard::builtin());
        nothing_is_lost(text, &read);
        let asked = read.things.iter().filter(|t| t.sure == Sure::Asked).count();
        assert_eq!(asked, counted, "{text}");
        for line in text.lines().skip(1) {
            let words = line.trim_start_matches("- ");
            assert!(read.drink.note.contains(words), "{words} isn't in {:?}", read.drink.note);
        }
    }
    // A measure that nobody here knows is never taken for a number of pieces.
    let read = read_recipe("1 tasse de flor de jamaica", &[], Cupboard::builtin());
    let thing = &read.things[0];
    assert_eq!((thing.ingredient.as_deref(), thing.sure), (Some("hibiscus_dried"), Sure::Guessed));
    assert!(thing.why[0].contains("the measure “tasse”"), "{:?}", thing.why);
    let read = read_recipe("2 tazas de flor de jamaica", &[], Cupboard::builtin());
    assert_eq!(read.things[0].amount.as_ref().unwrap().to_string(), "2 cups");
}

/// What is asked about is marked where it stands, and no longer when it was said.
#[test]
fn what_is_asked_about_is_marked_in_its_sentence() {
    let text = "Zorb cordial. Grate 3 zorbles into a pan with 1 litre of water. Simmer for 20 minutes, strain \
                and stir in 200 g sugar.";
    let marked = |choices: &[Choice]| {
        let read = read_recipe(text, choices, Cupboard::builtin());
        nothing_is_lost(text, &read);
        let asked = read.lines[0].runs.iter().filter(|r| r.sure == Sure::Asked);
        (asked.map(|r| r.text.clone()).collect::<Vec<_>>(), read.things)
    };
    let (asked, things) = marked(&[]);
    assert_eq!(asked, ["3 zorbles"]);
    let thing = things.iter().find(|t| t.sure == Sure::Asked).unwrap();
    let apple = Choice {
        key: thing.key.clone(),
        ingredient: Some("apple".into()),
        amount: Some("300 g".parse().unwrap()),
        ..Choice::default()
    };
    assert_eq!(marked(&[apple]).0, [""; 0]);
}

#[test]
fn a_title_is_a_name_without_how_much_it_makes() {
    for (title, name) in [
        ("Homemade lime soda (1 glass)", "Homemade lime soda"),
        ("Rhubarb Cordial (makes approx. 750ml)", "Rhubarb Cordial"),
        ("Pineapple cooler (no ferment)", "Pineapple cooler (no ferment)"),
        ("# Lemonade", "Lemonade"),
        ("COLD BREW HIBISCUS-ORANGE", "COLD BREW HIBISCUS-ORANGE"),
    ] {
        let text = format!("{title}\n4 limes\n100 g sugar\n500 ml water\nStir and chill.");
        assert_eq!(read_recipe(&text, &[], Cupboard::builtin()).drink.name, name);
    }
}

/// What is bottled fits into its bottle, whatever was steeped in it.
#[test]
fn a_syrup_is_bottled_with_room_to_spare() {
    for litres in [0.5, 0.9, 1.0, 2.0] {
        let text = format!(
            "Elderflower syrup\n20 heads elderflower\n2 lemons, sliced\n{} kg sugar\n{litres} l boiling water\n\
             Stir the sugar into the water, add the rest, leave 24 hours, strain and bottle.",
            1.2 * litres
        );
        let read = read_recipe(&text, &[], Cupboard::builtin());
        let report = DrinkReport::of(&read.drink, Cupboard::builtin());
        let told = report.frames.iter().flat_map(|f| &f.notices).map(|n| n.message.as_str());
        let over: Vec<&str> = told.filter(|m| m.contains("would have to hold")).collect();
        assert!(over.is_empty(), "{litres} l: {over:?}");
    }
}

/// What is bought in tins and bottles is counted by what they hold.
#[test]
fn what_is_held_is_counted_by_what_holds_it() {
    for (line, ingredient, amount) in [
        ("1 (20 oz) can pineapple chunks in juice", "pineapple", "20 oz"),
        ("one 400-ml tin coconut milk", "coconut_milk", "400 ml"),
        ("2 x 400 ml cans of coconut milk", "coconut_milk", "800 ml"),
        ("two 330 ml bottles soda water", "club_soda", "660 ml"),
        ("a 1 kg bag of sugar", "white_sugar", "1 kg"),
        ("3 (1 litre) cartons orange juice", "orange_juice", "3 l"),
        // A bracket that says how much that is, or how large, holds nothing.
        ("2 lemons (about 300 g)", "lemon_juice", "2 lemons"),
        ("1 cup (200 g) sugar", "white_sugar", "1 cup"),
    ] {
        let read = read_recipe(line, &[], Cupboard::builtin());
        let thing = &read.things[0];
        let amount: keen_core::quantity::Amount = amount.parse().unwrap();
        assert_eq!(thing.ingredient.as_deref(), Some(ingredient), "{line}");
        assert_eq!(
            thing.amount.as_ref().map(ToString::to_string),
            Some(amount.to_string()),
            "{line}"
        );
    }
}

/// Where only the method says what goes in, another litre is another one; a part of it is none.
#[test]
fn what_is_said_twice_goes_in_twice() {
    let waters = |text: &str| -> Vec<String> {
        let read = read_recipe(text, &[], Cupboard::builtin());
        let water = read.things.iter().filter(|t| t.ingredient.as_deref() == Some("water"));
        water.filter_map(|t| Some(t.amount.as_ref()?.to_string())).collect()
    };
    let twice = "Soak 200 g tamarind pulp in 500 ml water for 30 minutes. Strain. \
                 Add 1 l cold water and 100 g sugar.";
    assert_eq!(waters(twice), ["500 ml", "1 l"]);
    let part = "Heat 1 l water with 100 g sugar. Squeeze 4 limes. Stir in 200 ml of the water.";
    assert_eq!(waters(part), ["1 l"]);
    let listed = "Limeade\n1 l water\n100 g sugar\n4 limes\n\
                  Dissolve the sugar in 200 ml water, add the juice and the rest of the water.";
    assert_eq!(waters(listed), ["1 l"]);
}

#[test]
fn texts_that_are_no_recipe_are_left_aside() {
    for text in [
        "",
        "\n\n\n",
        "🍋🍋🍋 ½½½ 🧃\n🍓🍓",
        "It was a bright cold day, and the clocks of the town stood still. Nobody said a word about it.",
        "Man nehme eine Zitrone und etwas Zucker.\nDann rühren.",
        "レモン 3個\n砂糖 100g\n水 1リットル",
        "ليمون ٣\nسكر ١٠٠ جرام",
        "=1+1\n+cmd|calc\n@sum(a1)",
        "1/0 cup sugar\n99999999999999 l water\n-5 lemons\n1e9 g sugar",
        "{\"name\":\"x\"}",
    ] {
        let read = read_recipe(text, &[], Cupboard::builtin());
        assert_eq!(read.drink.check(Cupboard::builtin()), [], "{text}");
        nothing_is_lost(text, &read);
    }
    let novel =
        "Nobody had told her that the garden would be so quiet in the evening. ".repeat(2000);
    let began = std::time::Instant::now();
    let read = read_recipe(&novel, &[], Cupboard::builtin());
    assert!(novel.len() > MOST_CHARACTERS && read.drink.note.chars().count() <= 2000);
    assert!(began.elapsed().as_secs() < 5, "{:?}", began.elapsed());
}

/// Words that mean something to the reader, in any order.
fn word() -> impl Strategy<Value = String> {
    let known = [
        "lemon",
        "lemons",
        "sugar",
        "water",
        "1",
        "2",
        "1/2",
        "½",
        "3-4",
        "cup",
        "cups",
        "g",
        "ml",
        "l",
        "handful",
        "of",
        "the",
        "and",
        "juice",
        "zest",
        "boil",
        "simmer",
        "steep",
        "strain",
        "blend",
        "chill",
        "top up",
        "to",
        "fill",
        "half",
        "rest",
        "until",
        "dissolved",
        "minutes",
        "10",
        "overnight",
        "fridge",
        ",",
        ".",
        "(",
        ")",
        ":",
        "\n",
        "\n- ",
        "serves",
        "makes",
        "syrup",
        "mint",
        "hibiscus",
        "soda",
        "ice",
        "serve",
        "optional",
        "or",
        "a",
        "pinch",
        "in",
        "pan",
        "jug",
        "0",
        "/",
        "reduce",
        "by",
        "everything",
        "remaining",
        "°C",
        "80",
        "add",
        "pour",
        "boiling",
        "parts",
        "part",
        "freeze",
        "99999",
        "T",
        "x",
    ];
    prop_oneof![
        9 => proptest::sample::select(known.to_vec()).prop_map(str::to_owned),
        1 => "\\PC{0,6}",
    ]
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 300, ..ProptestConfig::default() })]

    #[test]
    fn any_words_are_read_without_a_slip(words in proptest::collection::vec(word(), 0..80)) {
        let text = words.join(" ");
        let read = read_recipe(&text, &[], Cupboard::builtin());
        prop_assert_eq!(read.drink.check(Cupboard::builtin()), []);
        nothing_is_lost(&text, &read);
        let _ = DrinkReport::of(&read.drink, Cupboard::builtin());
    }

    #[test]
    fn any_text_is_read_without_a_slip(text in "\\PC{0,200}(\n\\PC{0,80}){0,6}") {
        let read = read_recipe(&text, &[], Cupboard::builtin());
        prop_assert_eq!(read.drink.check(Cupboard::builtin()), []);
        nothing_is_lost(&text, &read);
    }
}

/// What is done in which vessel, in short: "lemon_zest into pot", "boil", "lift mint".
fn made(text: &str) -> Vec<String> {
    let read = read_recipe(text, &[], Cupboard::builtin());
    let short = |action: &Action| match action {
        Action::Add { into, ingredient, .. } | Action::Squeeze { into, ingredient, .. } => {
            format!("{ingredient} into {into}")
        }
        Action::Lift { ingredient, .. } => format!("lift {ingredient}"),
        Action::Cover { ingredient, .. } => format!("cover with {ingredient}"),
        Action::Strain { into, .. } => format!("strain into {into}"),
        Action::Pour { from, into, .. } => format!("{from} to {into}"),
        // By what it is called where it is written.
        other => {
            let whole = serde_json::to_string(other).expect("a step can be written");
            whole.trim_start_matches("{\"").split('"').next().unwrap_or_default().to_owned()
        }
    };
    read.drink.steps.iter().map(|s| short(&s.action)).collect()
}

#[test]
fn what_is_done_is_done_in_the_right_order_and_vessel() {
    for (text, wanted) in [
        (
            "2 lemons\n1.5 l water\n90 g sugar\nPut the water and the zest of the lemons in a pan. Simmer for 20 minutes. Strain into a jug, stir in the sugar. When cold add the lemon juice.",
            "water into pot; lemon_zest into pot; boil; strain into jug; white_sugar into jug; stir; lemon_juice into jug; serve",
        ),
        (
            "1 l water\n300 g sugar\n1 bunch mint\n40 ml lemon juice\nBring the water to the boil with the sugar. Off the heat add the mint, leave for 15 minutes. Lift out the mint. Add the lemon juice.",
            "water into pot; white_sugar into pot; boil; mint into pot; infuse; lift mint; lemon_juice into pot; serve",
        ),
        (
            "500 g rhubarb\nPut the rhubarb in a pan, cover with water and simmer for 15 minutes. Strain through a cloth.",
            "rhubarb into pot; cover with water; boil; strain into jug; serve",
        ),
        (
            "500 ml orange juice\n60 ml lemon juice\n50 g sugar\n400 ml soda water\nMix everything but the soda water in a jug until the sugar dissolves, chill, then top up with the soda water.",
            "orange_juice into jug; lemon_juice into jug; white_sugar into jug; dissolve; cool; club_soda into jug; serve",
        ),
        (
            "Shrub. Grate 100 g ginger. Stir with 150 g sugar and let stand overnight. Add 200 ml cider vinegar and strain through muslin.",
            "ginger_root into jug; white_sugar into jug; stir; macerate; cider_vinegar into jug; strain into pitcher; pitcher to bottle",
        ),
    ] {
        assert_eq!(made(text).join("; "), wanted, "{text}");
    }
}

#[test]
fn what_goes_by_the_litre_goes_by_what_is_there() {
    for text in [
        "Currant syrup\n1 kg blackcurrants\n500 ml water\nSimmer the currants in the water for 20 minutes. Strain through a cloth. To every litre of juice add 700 g sugar. Boil 5 minutes.",
        "Currant syrup\n1 kg blackcurrants\n500 ml water\n350 g sugar per 500 ml juice\nSimmer the currants in the water for 20 minutes. Strain through a cloth. Measure the juice and add the sugar. Boil 5 minutes.",
    ] {
        let read = read_recipe(text, &[], Cupboard::builtin());
        let at = read.drink.steps.iter().position(
            |s| matches!(&s.action, Action::Add { ingredient, .. } if ingredient == "white_sugar"),
        );
        let at = at.expect("sugar goes in");
        let Action::Add { amount, .. } = &read.drink.steps[at].action else { unreachable!() };
        let trace = Trace::run(&read.drink, Cupboard::builtin());
        let jug = read.drink.vessel("jug").unwrap();
        let litres = trace.after(at - 1, jug).unwrap().level().0 / 1000.0;
        let grams = Cupboard::builtin()
            .weigh(Cupboard::builtin().ingredient("white_sugar").unwrap(), amount)
            .unwrap()
            .grams
            .0;
        assert!(
            litres > 0.5 && (grams / litres / 700.0 - 1.0).abs() < 0.02,
            "{grams} g to {litres} l"
        );
        assert!(read.guesses.iter().any(|g| g.step == read.drink.steps[at].id), "it is marked");
    }
}

#[test]
fn what_is_measured_out_and_not_known_is_asked_wherever_it_stands() {
    let text = "Cola syrup: zest of 2 oranges and 1 lime; 1 g wattleseed; 300 ml water. Simmer 10 min. Strain and add 250 g sugar and 5 ml caramel colour.";
    let read = read_recipe(text, &[], Cupboard::builtin());
    nothing_is_lost(text, &read);
    let asked: Vec<&str> =
        read.things.iter().filter(|t| t.sure == Sure::Asked).map(|t| t.words.as_str()).collect();
    assert_eq!(asked, ["1 g wattleseed", "5 ml caramel colour"]);
    assert!(asked.iter().all(|words| read.drink.note.contains(words)), "{}", read.drink.note);
    assert_eq!(read.drink.name, "Cola syrup");
    let ids: Vec<&str> = read.things.iter().filter_map(|t| t.ingredient.as_deref()).collect();
    assert_eq!(ids, ["orange_zest", "lime_zest", "water", "white_sugar"]);
    // What a kitchen has is nothing that goes in.
    let towel = "1 l water\n20 g mint\nSteep the mint in hot water under a tea towel for 10 minutes, then strain.";
    let read = read_recipe(towel, &[], Cupboard::builtin());
    assert_eq!(read.things.len(), 2, "{:?}", read.things);
}

#[test]
fn nothing_is_made_up_from_what_is_no_recipe() {
    for text in [
        "Packing list\n2 towels\n1 bottle of sunscreen\n6 lemons for the neighbours\nsugar\n3 paperbacks",
        "Shopping list\nmilk\n2 lemons\ntoilet paper\n6 eggs\nbread\nsugar 1 kg",
        "CORNER SHOP\nLemons 6   2.40\nSugar 1kg   1.89\nTOTAL   4.29\nCASH   5.00",
        "DRINKS\nLemonade 3.50\nGinger beer 4.00\nSoda water 2.00",
        "for (let i = 0; i < 12; i++) {\n  const water = lemons[i] * 2;\n}",
        "Dear Anna,\nthank you for the 3 jars of honey.\nWe used all of it. See you on the 12th.",
        "It was summer, and the lemons hung heavy over the wall. Nobody had 38.4 of anything.",
    ] {
        let read = read_recipe(text, &[], Cupboard::builtin());
        assert!(read.doubt.is_some() && read.things.is_empty(), "{text}: {:?}", read.things);
        assert!(read.drink.steps.is_empty(), "{text}");
        let anyway = Choice { key: ANYWAY.into(), ..Choice::default() };
        let read = read_recipe(text, &[anyway], Cupboard::builtin());
        assert!(read.doubt.is_none(), "{text}");
    }
    for (name, lines) in corpus() {
        let read = read_recipe(&text_of(&lines), &[], Cupboard::builtin());
        assert!(read.doubt.is_none(), "{name} is a recipe");
    }
}
