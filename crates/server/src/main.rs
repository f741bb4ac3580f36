fn main() {
    let text = std::fs::read(std::env::args().nth(1).unwrap()).unwrap();
    let d = keen_formats::read_drink(&text).unwrap();
    let r = keen_core::report::DrinkReport::of(&d, keen_core::cupboard::Cupboard::builtin());
    for f in &r.frames {
        println!("{} [{:.0} min]", f.sentence, f.minutes);
        for s in &f.states {
            println!(
                "    {} {:.0} ml {:.1}Bx {:.2}% pH {:.1} {:.0}C {} pieces {:?} und {:.0} ice {:.0}",
                s.vessel,
                s.level_ml,
                s.brix,
                s.acidity_percent,
                s.ph.unwrap_or(0.),
                s.temperature_c,
                s.colour,
                s.pieces
                    .iter()
                    .map(|p| (p.name.as_str(), p.drawn))
                    .collect::<Vec<_>>(),
                s.undissolved_g,
                s.ice_g
            )
        }
        for n in &f.notices {
            println!("  ! {}", n.message)
        }
    }
    println!("{:#?}", r.profile);
    println!("{:?}", r.map.point);
    for l in &r.lines {
        println!(
            "{} {} {:?} {:.2} {:.2} {:.2} {:?}",
            l.text,
            l.name,
            l.also,
            l.sweetness_share,
            l.acid_share,
            l.water_share,
            l.ways.iter().map(|w| w.text.as_str()).collect::<Vec<_>>()
        )
    }
}
