//! What a step of each kind takes, in the cook's words: the form that a screen asks it with.
//!
//! An [`Action`](super::Action) names the parts of a step for programs; this names them for people: what the step is
//! called, what each part is called, and what may be entered there (a vessel that can stand on the stove, a juice, an
//! amount, one of a few words). A screen draws its fields from here, so a new kind of step, or a new way of doing one,
//! is written once. That every part of every action is asked for, and every word that it may have is offered, is held
//! against the described schema of drinks.

use serde::Serialize;

use crate::quantity::said::Kind;

/// The form of one kind of step.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, utoipa::ToSchema)]
pub struct StepForm {
    /// The action's name in a drink.
    pub action: &'static str,
    /// The name to show, a verb where there is one.
    pub name: &'static str,
    /// The heading of its group.
    pub group: &'static str,
    /// The fields, in the order in which to ask.
    pub fields: Vec<StepField>,
}

/// One part of a step.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, utoipa::ToSchema)]
pub struct StepField {
    /// The part's name in a drink.
    pub key: &'static str,
    /// The name to show.
    pub label: &'static str,
    /// Whether it may be left empty.
    pub optional: bool,
    /// The words for an optional vessel that isn't chosen; empty for any other field.
    pub without: &'static str,
    /// The case in which it means anything.
    pub asked: AskedIf,
    /// The kind of value that it takes.
    pub takes: StepTakes,
}

/// The case in which a field of a step means anything.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, utoipa::ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum AskedIf {
    /// Always.
    #[default]
    Always,
    /// If squeezing the ingredient leaves halves.
    LeavesHalves,
    /// If the ingredient is in pieces.
    InPieces,
    /// If the vessel of the step holds liquid: a strainer that is rinsed runs straight on.
    HoldsLiquid,
}

/// The kind of value that a field takes.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, utoipa::ToSchema)]
#[serde(rename_all = "snake_case", tag = "kind")]
pub enum StepTakes {
    /// One of the drink's vessels.
    Vessel {
        /// The vessels or ingredients to choose from.
        which: WhichVessels,
    },
    /// An ingredient.
    Ingredient {
        /// The vessels or ingredients to choose from.
        which: WhichIngredients,
    },
    /// An amount of an ingredient.
    Amount,
    /// A number.
    Number {
        /// The kind of value that the text is read as.
        read_as: Kind,
        /// The unit to show beside the label; empty for none.
        unit: &'static str,
        /// Whether it has no fractions.
        whole: bool,
    },
    /// Yes or no.
    Switch,
    /// The part of a vessel: all, a share, a volume.
    Portion,
    /// The point to which a liquid is boiled down.
    Reduction,
    /// A word from a list, the usual one first.
    Choice {
        /// The words to choose from.
        options: Vec<StepWord>,
    },
}

/// The vessels to choose from.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, utoipa::ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum WhichVessels {
    /// All of them.
    Any,
    /// Those that hold liquid, but for glasses.
    Holding,
    /// A strainer.
    Strainer,
    /// What can stand on the stove.
    Pot,
    /// What the drink is kept in.
    Bottle,
    /// What the drink is served in.
    Glass,
}

/// The ingredients to choose from.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, utoipa::ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum WhichIngredients {
    /// All of them.
    Any,
    /// Juices that fruit is squeezed for.
    Juice,
    /// Liquids and ice.
    Pourable,
}

/// A word in a list to choose from.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, utoipa::ToSchema)]
pub struct StepWord {
    /// The word in a drink.
    pub value: &'static str,
    /// The name to show.
    pub label: &'static str,
}

const ADD: &str = "Add";
const STOVE: &str = "On the stove";
const REST: &str = "Steep and rest";
const STRAIN: &str = "Blend and strain";
const SERVE: &str = "Pour and serve";

/// The forms of all steps, in the order in which a kitchen thinks of them.
#[must_use]
pub fn step_forms() -> Vec<StepForm> {
    let mut forms = adding();
    forms.extend(pouring_on());
    forms.extend(heating());
    forms.extend(resting());
    forms.extend(straining());
    forms.extend(serving());
    forms
}

fn adding() -> Vec<StepForm> {
    vec![
        form(
            ADD,
            "add",
            "Add",
            vec![
                amount("amount", "Amount"),
                ingredient("ingredient", "Ingredient", WhichIngredients::Any),
                vessel("into", "Into", WhichVessels::Any),
                warmth(),
                choice(
                    "cut",
                    "Cut",
                    &[
                        ("usual", "usual"),
                        ("whole", "whole"),
                        ("sliced", "sliced"),
                        ("chopped", "chopped"),
                        ("grated", "grated"),
                        ("bruised", "bruised"),
                    ],
                )
                .only(AskedIf::InPieces),
                count("portions", "In portions, tasting each time"),
            ],
        ),
        form(
            ADD,
            "squeeze",
            "Squeeze",
            vec![
                amount("amount", "Fruit or juice"),
                ingredient("ingredient", "For", WhichIngredients::Juice),
                vessel("into", "Into", WhichVessels::Holding),
                vessel("halves_into", "Keep the halves in", WhichVessels::Holding)
                    .or("nothing (discard them)")
                    .only(AskedIf::LeavesHalves),
            ],
        ),
        form(
            ADD,
            "prepare",
            "Prepare",
            vec![
                ingredient("ingredient", "Ingredient", WhichIngredients::Any),
                choice(
                    "how",
                    "How",
                    &[
                        ("wash", "wash"),
                        ("soak", "soak"),
                        ("inspect", "pick over"),
                        ("peel", "peel"),
                        ("chop", "cut up"),
                        ("crush", "crush"),
                    ],
                ),
                minutes("For").optional(),
            ],
        ),
    ]
}

fn pouring_on() -> Vec<StepForm> {
    vec![
        form(
            ADD,
            "top_up",
            "Top up",
            vec![
                vessel("vessel", "Vessel", WhichVessels::Any),
                ingredient("ingredient", "With", WhichIngredients::Pourable),
                warmth(),
                amount("to", "Fill to"),
            ],
        ),
        form(
            ADD,
            "cover",
            "Cover with liquid",
            vec![
                contents(),
                ingredient("ingredient", "With", WhichIngredients::Pourable),
                warmth(),
                number("above_mm", "Cover by", Kind::Millimetres, "mm"),
            ],
        ),
        form(
            ADD,
            "lengthen",
            "Dilute",
            vec![
                vessel("vessel", "Vessel", WhichVessels::Any),
                ingredient("ingredient", "With", WhichIngredients::Pourable),
                warmth(),
                number("parts", "Parts to 1 part", Kind::Number, ""),
            ],
        ),
    ]
}

fn heating() -> Vec<StepForm> {
    vec![
        form(
            STOVE,
            "heat",
            "Heat",
            vec![
                pot(),
                celsius(),
                switch("until_clear", "Stop when clear"),
                minutes("Hold for"),
                lid(),
            ],
        ),
        form(STOVE, "boil", "Simmer or boil", vec![pot(), minutes("For"), vigour(), lid()]),
        form(STOVE, "mark", "Mark the level", vec![vessel("vessel", "On", WhichVessels::Pot)]),
        form(
            STOVE,
            "reduce",
            "Boil down",
            vec![pot(), field("to", "Until", StepTakes::Reduction), vigour()],
        ),
        form(
            STOVE,
            "dissolve",
            "Dissolve",
            vec![
                contents(),
                choice("how", "How", &[("stirred", "stirred"), ("microwave", "in the microwave")]),
            ],
        ),
    ]
}

fn resting() -> Vec<StepForm> {
    let where_it_rests = || {
        let places = [("worktop", "on the worktop"), ("refrigerator", "in the refrigerator")];
        choice("place", "Where", &places)
    };
    vec![
        form(
            REST,
            "stir",
            "Stir",
            vec![
                vessel("vessel", "Vessel", WhichVessels::Any),
                choice(
                    "until",
                    "Until",
                    &[("mixed", "mixed"), ("clear", "clear"), ("calm", "it stops fizzing")],
                ),
            ],
        ),
        form(
            REST,
            "infuse",
            "Leave to steep",
            vec![contents(), minutes("For"), where_it_rests(), covered()],
        ),
        form(
            REST,
            "macerate",
            "Leave in sugar",
            vec![
                contents(),
                choice(
                    "how",
                    "How",
                    &[("left", "mixed and left"), ("rubbed", "rubbed in by hand")],
                ),
                minutes("For"),
                where_it_rests(),
            ],
        ),
        form(
            REST,
            "lift",
            "Lift out",
            vec![
                ingredient("ingredient", "Ingredient", WhichIngredients::Any),
                vessel("from", "From", WhichVessels::Holding),
                vessel("into", "Into", WhichVessels::Holding),
            ],
        ),
        form(
            REST,
            "cool",
            "Cool",
            vec![
                contents(),
                celsius(),
                choice(
                    "place",
                    "Where",
                    &[
                        ("refrigerator", "in the refrigerator"),
                        ("worktop", "on the worktop"),
                        ("water_bath", "in cold water"),
                        ("freezer", "in the freezer"),
                    ],
                ),
                covered(),
            ],
        ),
    ]
}

fn straining() -> Vec<StepForm> {
    let solids = || {
        let ways =
            [("drained", "drain only"), ("pressed", "press with a spoon"), ("wrung", "wring out")];
        choice("press", "Solids", &ways)
    };
    vec![
        form(
            STRAIN,
            "blend",
            "Blend",
            vec![contents(), number("seconds", "For", Kind::Seconds, "s")],
        ),
        form(
            STRAIN,
            "strain",
            "Strain",
            vec![
                vessel("from", "From", WhichVessels::Holding),
                vessel("through", "Through", WhichVessels::Strainer),
                vessel("into", "Into", WhichVessels::Holding),
                solids(),
            ],
        ),
        form(
            STRAIN,
            "rinse",
            "Rinse",
            vec![
                amount("amount", "Amount"),
                ingredient("ingredient", "With", WhichIngredients::Pourable),
                warmth(),
                vessel("vessel", "Through the pulp in", WhichVessels::Any),
                vessel("through", "Strain through", WhichVessels::Strainer)
                    .or("no strainer")
                    .only(AskedIf::HoldsLiquid),
                vessel("into", "Into", WhichVessels::Holding),
                solids(),
            ],
        ),
    ]
}

fn serving() -> Vec<StepForm> {
    vec![
        form(
            SERVE,
            "pour",
            "Pour",
            vec![
                field("portion", "How much", StepTakes::Portion),
                vessel("from", "From", WhichVessels::Any),
                vessel("into", "Into", WhichVessels::Holding),
            ],
        ),
        form(
            SERVE,
            "bottle",
            "Bottle",
            vec![
                vessel("from", "From", WhichVessels::Holding),
                vessel("bottle", "Into", WhichVessels::Bottle),
                amount("headspace", "Headspace in each"),
            ],
        ),
        form(
            SERVE,
            "serve",
            "Serve",
            vec![
                count("glasses", "Glasses"),
                amount("size", "Each"),
                vessel("from", "From", WhichVessels::Holding),
                vessel("glass", "In", WhichVessels::Glass),
            ],
        ),
        form(
            SERVE,
            "dress",
            "Garnish or rim",
            vec![
                ingredient("ingredient", "With", WhichIngredients::Any),
                choice("how", "How", &[("garnish", "as a garnish"), ("rim", "on the rim")]),
                vessel("glass", "On", WhichVessels::Glass),
                amount("amount", "On each").optional(),
            ],
        ),
    ]
}

fn form(
    group: &'static str,
    action: &'static str,
    name: &'static str,
    fields: Vec<StepField>,
) -> StepForm {
    StepForm { action, name, group, fields }
}

fn field(key: &'static str, label: &'static str, takes: StepTakes) -> StepField {
    StepField { key, label, optional: false, without: "", asked: AskedIf::Always, takes }
}

impl StepField {
    fn optional(self) -> Self {
        Self { optional: true, ..self }
    }

    /// A vessel that may be left out, and what that is called.
    fn or(self, without: &'static str) -> Self {
        Self { without, ..self.optional() }
    }

    fn only(self, asked: AskedIf) -> Self {
        Self { asked, ..self }
    }
}

fn vessel(key: &'static str, label: &'static str, which: WhichVessels) -> StepField {
    field(key, label, StepTakes::Vessel { which })
}

/// The vessel whose contents the step is about.
fn contents() -> StepField {
    vessel("vessel", "Vessel", WhichVessels::Holding)
}

fn pot() -> StepField {
    vessel("vessel", "In", WhichVessels::Pot)
}

fn ingredient(key: &'static str, label: &'static str, which: WhichIngredients) -> StepField {
    field(key, label, StepTakes::Ingredient { which })
}

fn amount(key: &'static str, label: &'static str) -> StepField {
    field(key, label, StepTakes::Amount)
}

fn number(key: &'static str, label: &'static str, read_as: Kind, unit: &'static str) -> StepField {
    field(key, label, StepTakes::Number { read_as, unit, whole: false })
}

fn count(key: &'static str, label: &'static str) -> StepField {
    field(key, label, StepTakes::Number { read_as: Kind::Number, unit: "", whole: true })
}

fn minutes(label: &'static str) -> StepField {
    number("minutes", label, Kind::Minutes, "min")
}

fn celsius() -> StepField {
    number("to_c", "To", Kind::Celsius, "°C")
}

fn switch(key: &'static str, label: &'static str) -> StepField {
    field(key, label, StepTakes::Switch)
}

fn lid() -> StepField {
    switch("lid", "With the lid on")
}

fn covered() -> StepField {
    switch("covered", "Covered")
}

fn choice(
    key: &'static str,
    label: &'static str,
    options: &[(&'static str, &'static str)],
) -> StepField {
    let options = options.iter().map(|&(value, label)| StepWord { value, label }).collect();
    field(key, label, StepTakes::Choice { options })
}

fn warmth() -> StepField {
    choice(
        "warmth",
        "Temperature",
        &[
            ("usual", "usual"),
            ("boiling", "boiling, from the kettle"),
            ("hot", "hot"),
            ("tap", "cold from the tap"),
            ("chilled", "chilled"),
            ("frozen", "frozen"),
        ],
    )
}

fn vigour() -> StepField {
    choice(
        "how",
        "How hard",
        &[("simmer", "a lively simmer"), ("gentle", "a bare simmer"), ("boil", "a rolling boil")],
    )
}
