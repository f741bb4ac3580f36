//! The end of a making: what the text forgot goes in, what stands aside is poured together, and the glasses.

use super::*;

impl Cook<'_> {
    /// What the text forgot, what stands aside, and the glass.
    pub(super) fn finish(&mut self, makes: &Makes, line: Option<&Amount>) {
        let forgotten: Vec<usize> = (0..self.entries.len())
            .filter(|e| {
                self.left[*e] > 0.0
                    && self.item(*e).amount.is_some()
                    && !self.item(*e).garnish
                    && !self.item(*e).fills
                    && self.kind(*e) != Some(Kind::Ice)
            })
            .collect();
        let told = !self.drink.steps.is_empty();
        let fizz = |cook: &Self, e: &usize| cook.kind(*e) == Some(Kind::Soda);
        let (late, soon): (Vec<usize>, Vec<usize>) =
            forgotten.into_iter().partition(|e| fizz(self, e));
        if self.entries.iter().all(|e| e.item.ingredient.is_none()) && !told {
            return;
        }
        let waits =
            !soon.is_empty() || self.holding.len() > 1 || line.is_some() || !late.is_empty();
        let mut target = self.ends_in(waits);
        // Peels, leaves and pods that were to be strained out later lie in it now: the text says no better.
        let mut ordered = soon;
        ordered.sort_by_key(|e| match self.kind(*e) {
            Some(Kind::Sweetener | Kind::Salt | Kind::Acid) => 0,
            Some(Kind::Juice | Kind::Syrup) => 1,
            Some(Kind::Water | Kind::Spirit | Kind::Dairy) => 2,
            _ => 3,
        });
        for entry in ordered {
            let from = self.drink.steps.len();
            self.put(entry, self.left[entry], &target);
            if told && self.drink.steps.len() > from {
                self.guess(from, "The recipe doesn't say when to add this.");
            }
        }
        self.gather(&target.clone());
        // What was lifted out lies on its plate: the drink is what was left, and goes on to the jug.
        if matches!(self.drink.steps.last().map(|s| &s.action), Some(Action::Lift { .. })) {
            let jug =
                self.vessel(if target == "jug" { VesselKind::Pitcher } else { VesselKind::Jug });
            self.pour(&target.clone(), &jug);
            target = jug;
        }
        self.at = Some(target.clone());
        let crystals =
            self.lies_in(&target, |it| it.form == Form::Crystals && it.kind == Kind::Sweetener);
        let stirred = self.drink.steps.iter().any(|s| {
            matches!(
                s.action,
                Action::Dissolve { .. }
                    | Action::Stir { .. }
                    | Action::Heat { .. }
                    | Action::Boil { .. }
            )
        });
        let filler =
            (0..self.entries.len()).find(|e| self.item(*e).fills && self.left[*e] > 0.0).zip(line);
        if let Some((entry, to)) = filler.filter(|(e, _)| !fizz(self, e)) {
            self.fill(entry, to, &target);
        }
        if crystals && !stirred && self.holds(&target) {
            self.push(Action::Dissolve { vessel: target.clone(), how: Dissolving::Stirred });
        }
        if self.hot && (self.chilled || !late.is_empty()) {
            self.push(Action::Cool {
                vessel: target.clone(),
                to_c: 7.0,
                place: CoolingPlace::Refrigerator,
                covered: false,
            });
        }
        for entry in late {
            self.put(entry, self.left[entry], &target);
        }
        if let Some((entry, to)) = filler.filter(|(e, _)| fizz(self, e)) {
            self.fill(entry, to, &target);
        }
        self.size_vessels();
        self.pour_into_glasses(makes, &target);
    }

    /// The vessel that the drink ends in; `waits` if something is yet to come into it.
    fn ends_in(&mut self, waits: bool) -> String {
        let at = self.at.clone().unwrap_or_default();
        let poured = ["jug", "pitcher"].contains(&at.as_str());
        let stays = at == "pot" && self.holding.len() <= 1;
        if at.is_empty() || (!poured && waits && !stays) {
            return self.vessel(VesselKind::Jug);
        }
        at
    }

    /// Vessels that hold what is poured into them: the text doesn't say, and a cook takes one that does.
    fn size_vessels(&mut self) {
        for _ in 0..2 {
            let mut sized = self.drink.clone();
            sized.name_steps();
            if !sized.check(self.cupboard).is_empty() {
                return;
            }
            let trace = Trace::run(&sized, self.cupboard);
            for at in 0..sized.vessels.len() {
                let Some((_, fullest)) = trace.fullest(at) else { continue };
                let (level, holds) = (fullest.level().0, sized.vessels[at].capacity().0);
                if level > holds * 0.92 && sized.vessels[at].kind != VesselKind::Glass {
                    let litres = (level * 1.3 / 500.0).ceil() * 0.5;
                    self.drink.vessels[at].capacity = Some(Amount::of(litres, Measure::Litre));
                }
            }
        }
    }

    fn pour_into_glasses(&mut self, makes: &Makes, from: &str) {
        let mut run = self.drink.clone();
        run.name_steps();
        if run.steps.is_empty() || !run.check(self.cupboard).is_empty() {
            return;
        }
        let trace = Trace::run(&run, self.cupboard);
        let Some(outcome) = trace.outcome() else { return };
        let brix = outcome.contents.liquid.soluble_solids();
        self.drink.family = self.family(brix);
        let volume = Profile::of(outcome).map_or(0.0, |p| p.volume_ml);
        let level = outcome.contents.level().0;
        if self.drink.family == Family::Syrup {
            if from != "bottle" && volume > 60.0 {
                let bottle = self.vessel(VesselKind::Bottle);
                if let Some(last) = self.drink.vessels.iter_mut().find(|v| v.id == bottle)
                    && level > 600.0
                {
                    // A bottle isn't filled to the cork.
                    last.capacity =
                        Some(Amount::of((level * 1.2 / 250.0).ceil() * 0.25, Measure::Litre));
                }
                self.push(Action::Pour { from: from.into(), into: bottle, portion: Portion::All });
            }
            return;
        }
        if volume < 60.0 {
            return;
        }
        let said = makes.glass.as_ref().and_then(Amount::as_millilitres);
        let glasses = match (makes.glasses, said) {
            (Some(n), _) => n,
            (None, Some(ml)) => (volume / ml.max(20.0)).floor().max(1.0) as u32,
            (None, None) => (volume / 250.0).floor().max(1.0) as u32,
        };
        // More than a glass holds for each: they have two.
        let each = volume * 0.995 / f64::from(glasses.max(1));
        let glasses = if said.is_none() {
            glasses.max(1) * (each / 350.0).ceil().max(1.0) as u32
        } else {
            glasses
        };
        let share = volume * 0.995 / f64::from(glasses.max(1));
        let size = said.map_or(share, |ml| ml.min(share)).clamp(20.0, 350.0);
        // What no glass is so small for is served in as many as it fills.
        let glasses = if share < 60.0 { (volume / 200.0).floor().max(1.0) as u32 } else { glasses };
        let size = if share < 60.0 { 190.0_f64.min(volume * 0.99) } else { size };
        let size = Amount::millilitres((size / 5.0).floor() * 5.0);
        let glass = self.vessel(VesselKind::Glass);
        if let Some(vessel) = self.drink.vessels.iter_mut().find(|v| v.id == glass)
            && size.as_millilitres().is_some_and(|ml| ml > 270.0)
        {
            vessel.capacity = Some(Amount::millilitres(400.0));
        }
        let glasses = glasses.clamp(1, limits::GLASSES);
        self.push(Action::Serve { from: from.into(), glass: glass.clone(), glasses, size });
        for entry in self.entries {
            let (Some(id), true) = (&entry.item.ingredient, entry.item.garnish && !entry.left_out)
            else {
                continue;
            };
            let it = self.cupboard.ingredient(id);
            if it.is_some_and(|it| {
                !matches!(it.kind, Kind::Ice | Kind::Water | Kind::Soda | Kind::Juice)
            }) {
                self.push(Action::Dress {
                    glass: glass.clone(),
                    ingredient: id.clone(),
                    how: keen_core::drink::Dressing::Garnish,
                    amount: None,
                });
            }
        }
    }

    fn family(&self, brix: f64) -> Family {
        let any = |which: &dyn Fn(&Ingredient) -> bool| {
            self.drink.steps.iter().any(|s| {
                s.action
                    .brings()
                    .and_then(|b| self.cupboard.ingredient(b.ingredient))
                    .is_some_and(which)
            })
        };
        let does = |which: fn(&Action) -> bool| self.drink.steps.iter().any(|s| which(&s.action));
        if any(&|it| it.kind == Kind::Soda) {
            return Family::Soda;
        }
        // What is put up in bottles and is as sweet as that is thinned before it is drunk.
        if brix > 30.0 || (brix > 18.0 && self.bottled) {
            return Family::Syrup;
        }
        let blended = does(|a| matches!(a, Action::Blend { .. }));
        if (blended || !any(&|it| it.kind == Kind::Juice && it.per_gram.titratable_acid() > 0.04))
            && any(&|it| {
                matches!(it.kind, Kind::Fruit | Kind::Vegetable | Kind::Grain | Kind::Nut)
                    && it.part != keen_core::cupboard::Part::Whole
            })
        {
            return Family::FruitWater;
        }
        let drawn = any(&|it| it.form == Form::Pieces && matches!(it.kind, Kind::Flower));
        let steeped = does(|a| matches!(a, Action::Infuse { .. } | Action::Boil { .. }));
        let sour = any(&|it| it.kind == Kind::Juice && it.per_gram.titratable_acid() > 0.03);
        if drawn
            || (steeped
                && !sour
                && any(&|it| matches!(it.kind, Kind::Herb | Kind::Root | Kind::Spice | Kind::Stem)))
        {
            return Family::Infusion;
        }
        Family::Lemonade
    }
}
