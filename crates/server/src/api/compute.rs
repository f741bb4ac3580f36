//! Questions about a drink, answered by running it.

use actix_web::{post, web};
use chacha20::ChaCha8Rng;
use keen_core::balance::{
    self, Aim, Asked, Correction, Lean, LeanAsked, Pitcher, Solution, Swapped,
};
use keen_core::chance::{self, Spread};
use keen_core::cupboard::{Alkalinity, Cupboard, MOST_CARBONATE, Water};
use keen_core::drink::{Drink, FieldError};
use keen_core::luck::seed_of;
use keen_core::quantity::said::{
    self, Kind as FieldKind, Read as FieldRead, Unread as FieldUnread,
};
use keen_core::report::{DrinkReport, Glance};
use keen_core::scale::{self, Size};
use keen_core::study::{self, NextSteps, Steeping, Syrup, SyrupAsked};
use keen_core::work::Worktop;
use keen_formats::pasted::{self, LineRead, TypedSteps};
use rand::SeedableRng;
use serde::de::DeserializeOwned;
use serde::{Deserialize, Serialize};
use serde_json::Value;
use utoipa::{IntoParams, ToSchema};

use super::desk::Asker;
use super::figures::Figures;
use super::{Body, Problem, State};

/// How often a drink is run to see where it may land.
const RUNS: u32 = 1000;

/// A drink of so many steps is traced in a millisecond or two, on the thread that answers.
const AT_ONCE: usize = 40;

/// A body that holds a drink and something else. The drink is read by itself, so that its faults name
/// the same fields everywhere.
fn read_with_drink<T: DeserializeOwned>(
    mut all: Value,
    cupboard: &Cupboard,
) -> Result<(Drink, T), Problem> {
    let Some(fields) = all.as_object_mut() else {
        return Err(missing("drink").into());
    };
    let drink = fields.remove("drink").ok_or_else(|| missing("drink"))?;
    let drink = keen_formats::drink_from_value(drink, cupboard)?;
    Ok((drink, keen_formats::from_value(all)?))
}

impl State {
    /// Reads something off one run of a drink. A drag asks this with every move: what is done in a blink
    /// is done at once, on the thread that answers.
    async fn read_off<T: Send + 'static>(
        &self,
        asker: Asker,
        body: &Body,
        read: impl FnOnce(&Drink, &Cupboard) -> T + Send + 'static,
    ) -> Result<Figures<T>, Problem> {
        let cupboard = self.cupboard();
        let drink = keen_formats::read_drink(body.bytes(), &cupboard)?;
        if drink.steps.len() <= AT_ONCE {
            return Ok(Figures(read(&drink, &cupboard)));
        }
        self.desk.ask(asker, move |_| Ok(read(&drink, &cupboard))).await.map(Figures)
    }

    /// Works out at the desk what is asked of a drink.
    pub(super) async fn ask_of_drink<T, R>(
        &self,
        asker: Asker,
        body: &Body,
        question: impl FnOnce(&Drink, Worktop<'_>, R) -> Result<T, Problem> + Send + 'static,
    ) -> Result<web::Json<T>, Problem>
    where
        T: Send + 'static,
        R: DeserializeOwned + Send + 'static,
    {
        self.ask_with_drink(asker, body.json()?, question).await.map(web::Json)
    }

    /// The same, of a body that was read already.
    pub(super) async fn ask_with_drink<T, R>(
        &self,
        asker: Asker,
        body: Value,
        question: impl FnOnce(&Drink, Worktop<'_>, R) -> Result<T, Problem> + Send + 'static,
    ) -> Result<T, Problem>
    where
        T: Send + 'static,
        R: DeserializeOwned + Send + 'static,
    {
        let cupboard = self.cupboard();
        let (drink, rest) = read_with_drink(body, &cupboard)?;
        self.desk
            .ask(asker, move |work| question(&drink, Worktop::new(&cupboard, work), rest))
            .await
    }
}

fn missing(field: &str) -> FieldError {
    FieldError { field: field.into(), message: format!("{field} is missing.") }
}

/// Nothing beside the drink.
#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
pub(super) struct Nothing {}

/// A drink and its new size.
#[derive(Debug, Deserialize, ToSchema)]
#[allow(dead_code, reason = "describes the body, which is read field by field")]
pub(crate) struct Resize {
    drink: Drink,
    size: Size,
}

/// A drink at its new size.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct Resized {
    drink: Drink,
    report: DrinkReport,
}

/// A drink and its target.
#[derive(Debug, Deserialize, ToSchema)]
#[allow(dead_code, reason = "describes the body, which is read field by field")]
pub(crate) struct Solve {
    drink: Drink,
    aim: Aim,
}

/// A drink, the step whose ingredient is replaced, and its replacement.
#[derive(Debug, Deserialize, ToSchema)]
#[allow(dead_code, reason = "describes the body, which is read field by field")]
pub(crate) struct Swap {
    drink: Drink,
    /// The step's id.
    step: String,
    /// The id of the new ingredient.
    ingredient: String,
}

/// A drink.
#[derive(Debug, Deserialize, ToSchema)]
#[allow(dead_code, reason = "describes the body, which is read field by field")]
pub(crate) struct Whole {
    drink: Drink,
}

/// A drink and one of its steps.
#[derive(Debug, Deserialize, ToSchema)]
#[allow(dead_code, reason = "describes the body, which is read field by field")]
pub(crate) struct OfStep {
    drink: Drink,
    /// The step's id.
    step: String,
}

/// A drink, a position among its steps, and a vessel.
#[derive(Debug, Deserialize, ToSchema)]
#[allow(dead_code, reason = "describes the body, which is read field by field")]
pub(crate) struct AskNext {
    drink: Drink,
    /// The position that the new step gets: 0 is before the first.
    at: usize,
    /// The vessel's id.
    vessel: String,
}

/// Typed steps, a drink, a position among its steps, and the vessel in use.
#[derive(Debug, Deserialize, ToSchema)]
#[allow(dead_code, reason = "describes the body, which is read field by field")]
pub(crate) struct AskTyped {
    drink: Drink,
    /// "2 cups hibiscus; boil 10; strain into the pitcher".
    text: String,
    /// The position that the first of them gets: 0 is before the first step.
    at: usize,
    /// The id of the vessel in use.
    vessel: String,
}

/// The parts of a trace to return.
#[derive(Debug, Clone, Copy, Default, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub(crate) enum Fields {
    /// All of it.
    #[default]
    All,
    /// Only what moves while an amount is dragged: the trace without its frames.
    Moving,
}

/// The parts of a trace to return.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
#[serde(deny_unknown_fields)]
pub(crate) struct TraceQuery {
    /// The parts to return; all if missing.
    #[serde(default)]
    #[param(inline)]
    fields: Fields,
}

/// A trace, or the requested parts of it.
#[derive(Debug, Serialize, ToSchema)]
#[serde(untagged)]
pub(crate) enum Traced {
    All(Box<DrinkReport>),
    Moving(Box<Glance>),
}

/// Run a drink: frames, vessels, lines, profile and map.
#[utoipa::path(operation_id = "trace_drink", tag = "compute", params(TraceQuery), request_body = Drink, responses((status = 200, body = Traced)))]
#[post("/api/compute/trace")]
pub(super) async fn trace(
    state: web::Data<State>,
    asker: Asker,
    query: web::Query<TraceQuery>,
    body: Body,
) -> Result<Figures<Traced>, Problem> {
    match query.fields {
        Fields::All => {
            state.read_off(asker, &body, |d, c| Traced::All(Box::new(DrinkReport::of(d, c)))).await
        }
        Fields::Moving => {
            state.read_off(asker, &body, |d, c| Traced::Moving(Box::new(Glance::of(d, c)))).await
        }
    }
}

/// Change a drink to another size.
#[utoipa::path(operation_id = "resize_drink", tag = "compute", request_body = inline(Resize), responses(
    (status = 200, body = inline(Resized))))]
#[post("/api/compute/size")]
pub(super) async fn size(
    state: web::Data<State>,
    asker: Asker,
    body: Body,
) -> Result<web::Json<Resized>, Problem> {
    #[derive(Deserialize)]
    #[serde(deny_unknown_fields)]
    struct Rest {
        size: Size,
    }
    let resized = |drink: &Drink, worktop: Worktop<'_>, Rest { size }: Rest| {
        let drink = scale::resize(drink, worktop, &size)?;
        let faults = drink.check(&worktop);
        if !faults.is_empty() {
            return Err(Problem::invalid(faults));
        }
        let report = DrinkReport::of(&drink, &worktop);
        Ok(Resized { drink, report })
    };
    state.ask_of_drink(asker, &body, resized).await
}

/// Work out the amounts that bring a drink to a target.
#[utoipa::path(operation_id = "solve_drink", tag = "compute", request_body = inline(Solve), responses(
    (status = 200, body = Solution)))]
#[post("/api/compute/solve")]
pub(super) async fn solve(
    state: web::Data<State>,
    asker: Asker,
    body: Body,
) -> Result<web::Json<Solution>, Problem> {
    #[derive(Deserialize)]
    #[serde(deny_unknown_fields)]
    struct Rest {
        aim: Aim,
    }
    let solved = |drink: &Drink, worktop: Worktop<'_>, Rest { aim }: Rest| {
        Ok(balance::solve(drink, worktop, &aim)?)
    };
    state.ask_of_drink(asker, &body, solved).await
}

/// A drink, and the wanted reduction of its sugar.
#[derive(Debug, Deserialize, ToSchema)]
#[allow(dead_code, reason = "describes the body, which is read field by field")]
pub(super) struct AskLean {
    drink: Drink,
    #[serde(flatten)]
    asked: LeanAsked,
}

/// Find how little sugar a drink takes: the curve of its sugar against how far it is from what is liked.
#[utoipa::path(operation_id = "find_less_sugar", tag = "compute", request_body = inline(AskLean), responses(
    (status = 200, body = Lean)))]
#[post("/api/compute/less-sugar")]
pub(super) async fn less_sugar(
    state: web::Data<State>,
    asker: Asker,
    body: Body,
) -> Result<web::Json<Lean>, Problem> {
    let found = |drink: &Drink, worktop: Worktop<'_>, asked: LeanAsked| {
        Ok(balance::lean(drink, worktop, &asked)?)
    };
    state.ask_of_drink(asker, &body, found).await
}

/// Work out what a pitcher needs that tastes wrong.
#[utoipa::path(operation_id = "correct_pitcher", tag = "compute", request_body = Asked, responses(
    (status = 200, body = Correction)))]
#[post("/api/compute/correct")]
pub(super) async fn correct(
    state: web::Data<State>,
    asker: Asker,
    body: Body,
) -> Result<web::Json<Correction>, Problem> {
    let mut asked: Asked = body.json()?;
    let cupboard = state.cupboard();
    if let Pitcher::Traced { drink, .. } = &mut asked.pitcher {
        drink.name_steps();
        let faults = drink.check(&cupboard);
        if !faults.is_empty() {
            return Err(Problem::invalid(faults));
        }
    }
    if let Some(unknown) = asked.at_hand.iter().find(|id| cupboard.ingredient(id).is_none()) {
        let message = format!("There is no ingredient “{unknown}” in the cupboard.");
        return Err(FieldError { field: "at_hand".into(), message }.into());
    }
    let found = state
        .desk
        .ask(asker, move |work| Ok(balance::correct(Worktop::new(&cupboard, work), &asked)?));
    found.await.map(web::Json)
}

/// Replace one ingredient by another, at equal sweetness and acidity.
#[utoipa::path(operation_id = "replace_ingredient", tag = "compute", request_body = inline(Swap), responses(
    (status = 200, body = Swapped)))]
#[post("/api/compute/swap")]
pub(super) async fn swap(
    state: web::Data<State>,
    asker: Asker,
    body: Body,
) -> Result<web::Json<Swapped>, Problem> {
    #[derive(Deserialize)]
    #[serde(deny_unknown_fields)]
    struct Rest {
        step: String,
        ingredient: String,
    }
    let swapped = |drink: &Drink, worktop: Worktop<'_>, rest: Rest| {
        Ok(balance::swap(drink, worktop, &rest.step, &rest.ingredient)?)
    };
    state.ask_of_drink(asker, &body, swapped).await
}

/// The likely range of a drink with fruit that varies; none while there is nothing to drink.
#[utoipa::path(operation_id = "spread_drink", tag = "compute", request_body = Whole, responses(
    (status = 200, body = Option<Spread>)))]
#[post("/api/compute/spread")]
pub(super) async fn spread(
    state: web::Data<State>,
    asker: Asker,
    body: Body,
) -> Result<web::Json<Option<Spread>>, Problem> {
    let landed = |drink: &Drink, worktop: Worktop<'_>, Nothing {}: Nothing| {
        // The same drink lands in the same cloud, with every version: its own text is the seed, and
        // hash and generator are ones that stay as they are.
        let text = serde_json::to_vec(&drink.steps).unwrap_or_default();
        let mut chance = ChaCha8Rng::seed_from_u64(seed_of(&text));
        Ok(chance::spread(drink, worktop, RUNS, &mut chance)?)
    };
    state.ask_of_drink(asker, &body, landed).await
}

/// Show the extraction over time in a steeping step; empty if nothing is extracted.
#[utoipa::path(operation_id = "show_steeping", tag = "compute", request_body = inline(OfStep), responses(
    (status = 200, body = Option<Steeping>)))]
#[post("/api/compute/steeping")]
pub(super) async fn steeping(
    state: web::Data<State>,
    asker: Asker,
    body: Body,
) -> Result<web::Json<Option<Steeping>>, Problem> {
    #[derive(Deserialize)]
    #[serde(deny_unknown_fields)]
    struct Rest {
        step: String,
    }
    let steeped = |drink: &Drink, worktop: Worktop<'_>, Rest { step }: Rest| {
        Ok(study::steeping(drink, worktop, &step)?)
    };
    state.ask_of_drink(asker, &body, steeped).await
}

/// List the steps that make sense next for a vessel, with usual amounts.
#[utoipa::path(operation_id = "suggest_steps", tag = "compute", request_body = inline(AskNext), responses(
    (status = 200, body = NextSteps)))]
#[post("/api/compute/next-steps")]
pub(super) async fn next_steps(
    state: web::Data<State>,
    asker: Asker,
    body: Body,
) -> Result<web::Json<NextSteps>, Problem> {
    #[derive(Deserialize)]
    #[serde(deny_unknown_fields)]
    struct Rest {
        at: usize,
        vessel: String,
    }
    let offered = |drink: &Drink, worktop: Worktop<'_>, Rest { at, vessel }: Rest| {
        let found = study::next_steps(drink, &worktop, at, &vessel);
        found.ok_or_else(|| {
            let message = format!("This drink has no vessel “{vessel}”.");
            FieldError { field: "vessel".into(), message }.into()
        })
    };
    state.ask_of_drink(asker, &body, offered).await
}

/// The text typed into a field.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct FieldAsked {
    kind: FieldKind,
    /// The typed text.
    text: String,
    /// The earlier value, so that "30 g more" changes it.
    before: Option<String>,
    /// The id of the ingredient, to convert between volume and weight.
    ingredient: Option<String>,
}

/// The reading of the text, or the reason why it couldn't be read.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct FieldAnswer {
    read: Option<FieldRead>,
    unread: Option<FieldUnread>,
}

/// Read what is typed into a field.
///
/// Numbers, times, temperatures, lengths and amounts as people type them: "1 1/2 hours", "175 °F", "30 g more". Where
/// two readings are possible, both are offered.
#[utoipa::path(operation_id = "read_field", tag = "compute", request_body = FieldAsked, responses(
    (status = 200, body = FieldAnswer), (status = 422, body = Problem)))]
#[post("/api/compute/read")]
pub(super) async fn read_field(
    state: web::Data<State>,
    asked: Body,
) -> Result<web::Json<FieldAnswer>, Problem> {
    let asked: FieldAsked = keen_formats::from_value(asked.json()?)?;
    let cupboard = state.cupboard();
    let it = asked.ingredient.as_deref().and_then(|id| cupboard.ingredient(id));
    let read =
        said::read(asked.kind, &asked.text, asked.before.as_deref(), cupboard.saying().degrees);
    let weighed = read.and_then(|read| {
        let (Some(it), Ok(amount)) = (it, read.text.parse()) else { return Ok(read) };
        match cupboard.weigh(it, &amount) {
            Ok(weighed) if amount.as_grams().is_some() || weighed.grams.0 <= 0.0 => Ok(read),
            Ok(weighed) => {
                let grams = in_three_figures(weighed.grams.0);
                Ok(FieldRead { understood: Some(format!("= {} ({grams} g)", read.text)), ..read })
            }
            Err(unknown) => Err(FieldUnread { message: unknown.to_string(), choices: Vec::new() }),
        }
    });
    let (read, unread) = match weighed {
        Ok(read) => (Some(read), None),
        Err(unread) => (None, Some(unread)),
    };
    Ok(web::Json(FieldAnswer { read, unread }))
}

fn in_three_figures(grams: f64) -> f64 {
    keen_core::quantity::to_figures(grams, if grams < 100.0 { 2 } else { 3 })
}

/// The known figures of a water: from a sheet, or the pH after adding acid.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case", deny_unknown_fields)]
pub(crate) enum WaterAsked {
    /// A figure from the supplier's sheet, a test strip or a label.
    Sheet {
        /// Its unit.
        unit: Alkalinity,
        /// How much.
        value: f64,
    },
    /// Citric acid was dissolved in it and its pH read.
    Acid {
        /// Citric acid in a litre, g, 0.2 to 10.
        citric_g: f64,
        /// The pH that was read, 1.5 to 8.
        ph: f64,
    },
}

/// A water.
#[derive(Debug, Serialize, ToSchema)]
pub(crate) struct WaterAnswer {
    water: Water,
    /// Its effect, in words.
    message: String,
}

/// Work out the hardness and alkalinity of a water, from a sheet or from the pH after adding acid.
#[utoipa::path(operation_id = "work_out_water", tag = "compute", request_body = WaterAsked, responses(
    (status = 200, body = WaterAnswer), (status = 422, body = Problem)))]
#[post("/api/compute/water")]
pub(super) async fn work_out_water(body: Body) -> Result<web::Json<WaterAnswer>, Problem> {
    let asked: WaterAsked = keen_formats::from_value(body.json()?)?;
    let fault = |field: &str, message: &str| FieldError::new(field, message);
    let water = match asked {
        WaterAsked::Sheet { unit, value } => {
            let hydrogen_carbonate = unit.as_hydrogen_carbonate(value);
            if !(0.0..=MOST_CARBONATE).contains(&hydrogen_carbonate) {
                return Err(fault(
                    "sheet.value",
                    "This is more than any drinking water holds. Check the unit.",
                )
                .into());
            }
            Water { hydrogen_carbonate }
        }
        WaterAsked::Acid { citric_g, ph } => {
            if !(0.2..=10.0).contains(&citric_g) {
                return Err(
                    fault("acid.citric_g", "Enter 0.2 to 10 g of citric acid in a litre.").into()
                );
            }
            if !(1.5..=8.0).contains(&ph) {
                return Err(fault("acid.ph", "Enter a pH of 1.5 to 8.").into());
            }
            let why = "No drinking water gives that pH with this much acid. Calibrate the meter and read again.";
            Water::from_ph(citric_g, ph).ok_or_else(|| fault("acid.ph", why))?
        }
    };
    let message = if water.takes_citric() < 0.01 {
        "This water leaves a drink's acid alone.".to_owned()
    } else {
        format!(
            "A litre of it neutralises {:.2} g of citric acid. Hibiscus and petals turn a little towards violet in it.",
            water.takes_citric()
        )
    };
    Ok(web::Json(WaterAnswer { water, message }))
}

/// A typed line that adds an ingredient.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct LineAsked {
    /// "2 cups hibiscus".
    text: String,
}

/// Read a line that says what goes in.
///
/// Read an ingredient with its amount, as in a pasted recipe; if it isn't found, suggest similar names.
#[utoipa::path(operation_id = "read_line", tag = "compute", request_body = LineAsked, responses(
    (status = 200, body = LineRead), (status = 422, body = Problem)))]
#[post("/api/compute/line")]
pub(super) async fn read_line(
    state: web::Data<State>,
    asked: Body,
) -> Result<web::Json<LineRead>, Problem> {
    let asked: LineAsked = keen_formats::from_value(asked.json()?)?;
    Ok(web::Json(pasted::read_line(&asked.text, &state.cupboard())))
}

/// Read steps that are typed.
///
/// Reads "2 cups hibiscus; boil 10; strain into the pitcher" as steps at a position of a drink, and completes them with
/// usual choices. Up to 400 characters. Parts that weren't understood, or make no sense there, are returned.
#[utoipa::path(operation_id = "read_steps", tag = "compute", request_body = inline(AskTyped), responses(
    (status = 200, body = TypedSteps), (status = 422, body = Problem)))]
#[post("/api/compute/typed-steps")]
pub(super) async fn read_steps(
    state: web::Data<State>,
    asker: Asker,
    body: Body,
) -> Result<web::Json<TypedSteps>, Problem> {
    #[derive(Deserialize)]
    #[serde(deny_unknown_fields)]
    struct Rest {
        text: String,
        at: usize,
        vessel: String,
    }
    let read = |drink: &Drink, worktop: Worktop<'_>, Rest { text, at, vessel }: Rest| {
        if drink.vessel(&vessel).is_none() {
            let message = format!("This drink has no vessel “{vessel}”.");
            return Err(FieldError { field: "vessel".into(), message }.into());
        }
        Ok(pasted::read_steps(&text, drink, at, &vessel, worktop.cupboard()))
    };
    state.ask_of_drink(asker, &body, read).await
}

/// Work a syrup out.
#[utoipa::path(operation_id = "make_syrup", tag = "compute", request_body = SyrupAsked, responses(
    (status = 200, body = Syrup)))]
#[post("/api/compute/syrup")]
pub(super) async fn syrup(
    state: web::Data<State>,
    body: Body,
) -> Result<web::Json<Syrup>, Problem> {
    let asked: SyrupAsked = body.json()?;
    Ok(web::Json(study::syrup(&state.cupboard(), &asked)?))
}
