//! Whole traces of the starting points, as a person would read them.

use keen_core::cupboard::Cupboard;
use keen_core::report::DrinkReport;

/// The figures of every frame, rounded to what a kitchen can see.
fn table(report: &DrinkReport) -> String {
    let mut out = String::new();
    for frame in &report.frames {
        out += &format!("{} ({:.0} min)\n", frame.sentence, frame.minutes);
        for s in frame.states.iter().filter(|s| s.mass_g > 0.05) {
            out += &format!(
                "    {}: {:.0} ml, {:.1} °Bx, {:.2} %, pH {:.1}, {:.0} °C, {}\n",
                s.vessel,
                s.level_ml,
                s.brix,
                s.acidity_percent,
                s.ph.unwrap_or(7.0),
                s.temperature_c,
                s.colour
            );
        }
        for notice in &frame.notices {
            out += &format!("    ! {}\n", notice.message);
        }
    }
    for line in &report.lines {
        out += &format!(
            "{} {}: {:.0} % of the sweetness, {:.0} % of the acid, {:.0} % of the water\n",
            line.text,
            line.name,
            100.0 * line.sweetness_share,
            100.0 * line.acid_share,
            100.0 * line.water_share
        );
    }
    out
}

#[test]
fn starting_points_step_by_step() {
    for start in keen_formats::starting_points() {
        let report = DrinkReport::of(&start.drink, Cupboard::builtin());
        insta::assert_snapshot!(start.id, table(&report));
    }
}
