//! What each doing of the text is in a kitchen: where it happens, what goes in, and for how long.

use super::*;

/// How far the water stands above what it covers, mm: a finger's breadth, as cooks say.
const FINGER: f64 = 15.0;

impl Cook<'_> {
    pub(super) fn lies_in(&self, vessel: &str, which: impl Fn(&Ingredient) -> bool) -> bool {
        let lifted = |id: &str| {
            self.drink.steps.iter().any(|s| {
                matches!(&s.action, Action::Lift { from, ingredient, .. } if from == vessel && ingredient == id)
            })
        };
        self.drink.steps.iter().any(|s| match &s.action {
            Action::Add { into, ingredient, .. } | Action::Squeeze { into, ingredient, .. }
                if into == vessel && !lifted(ingredient) =>
            {
                self.cupboard.ingredient(ingredient).is_some_and(&which)
            }
            _ => false,
        })
    }

    /// Whether something that a doing names lies in a vessel: "scoop out the pulp; blend the pulp with …".
    fn lies_there(&self, doing: &Doing, vessel: &str) -> bool {
        let solid = |it: &Ingredient, id: &str| it.id == id && it.form == Form::Pieces;
        doing.uses.iter().any(|u| self.lies_in(vessel, |it| solid(it, &u.found.id)))
    }

    /// "In a small pan", where the pot is in use: what is in it stays there.
    fn small_pan(&mut self, doing: &Doing) -> Option<String> {
        let in_use = self.at.as_deref() == Some("pot") && self.holds("pot");
        if !(doing.another_pan && in_use) {
            return None;
        }
        let pan = "small_pan".to_owned();
        if self.drink.vessel(&pan).is_none() {
            self.drink.vessels.push(Vessel::new(&pan, VesselKind::Pot));
        }
        self.at = Some(pan.clone());
        Some(pan)
    }

    /// Takes what is heated to the pot: what is named, or what is in hand.
    fn take_to_the_pot(&mut self, doing: &Doing, line: Option<&Amount>) -> String {
        let new_things = !self.about(doing).is_empty();
        let apart = new_things
            && !doing.mixture
            && self.at.as_deref().is_some_and(|at| at != "pot" && !self.lies_there(doing, at))
            && !self.holds("pot");
        let pot = if let Some(pan) = self.small_pan(doing) {
            pan
        } else if apart {
            // What stands in the bowl stays there; something else is put on the ring.
            let pot = self.vessel(VesselKind::Pot);
            self.at = Some(pot.clone());
            pot
        } else {
            self.go_to(VesselKind::Pot)
        };
        self.put_all(doing, &pot, line);
        if !self.holds(&pot) {
            self.begin_with(&pot, line);
        }
        pot
    }

    /// What is started with where nothing is named and nothing is in hand: all that no later sentence names, or
    /// what the list has for the syrup.
    fn begin_with(&mut self, vessel: &str, line: Option<&Amount>) {
        let open = |cook: &Self, e: &usize| {
            cook.left[*e] > 0.0
                && !cook.item(*e).garnish
                && !matches!(cook.kind(*e), Some(Kind::Soda | Kind::Ice))
                && cook.claims[*e].is_none_or(|last| last <= cook.now)
        };
        let all: Vec<usize> = (0..self.entries.len()).filter(|e| open(self, e)).collect();
        let of_syrup: Vec<usize> = all
            .iter()
            .copied()
            .filter(|e| self.entries[*e].group.as_deref().is_some_and(|g| g.contains("syrup")))
            .collect();
        for entry in if of_syrup.is_empty() { all } else { of_syrup } {
            if self.item(entry).fills {
                let whole = line.and_then(Amount::as_millilitres).unwrap_or(2000.0);
                let Some(id) = self.item(entry).ingredient.clone() else { continue };
                self.push(Action::add(
                    vessel,
                    id,
                    Amount::millilitres(kitchen_round(whole * 0.25)),
                ));
                self.now_holds(vessel);
                self.guess_of_last(
                    "The recipe doesn't say how much of the water: we used a quarter.",
                );
            } else {
                self.put(entry, self.left[entry], vessel);
            }
        }
        if self.holds(vessel) {
            self.guess_of_last("The recipe doesn't say what to start with.");
        }
    }

    pub(super) fn carry_out(&mut self, doing: &Doing, line: Option<&Amount>) {
        match doing.verb {
            // "Grate the zest into the pan" puts it there.
            Verb::Prepare if doing.vessel.is_some() && !self.about(doing).is_empty() => {
                self.put_in(doing, line);
            }
            Verb::Prepare => {
                let named: Vec<usize> =
                    self.about(doing).into_iter().map(|(entry, _)| entry).collect();
                self.prepared.extend(named);
            }
            Verb::Lift => self.lift(doing),
            Verb::Put | Verb::Pour | Verb::Squeeze => self.put_in(doing, line),
            Verb::Rub => self.rub(doing, line),
            Verb::Boil(how) => self.boil(how, doing, line),
            Verb::Heat => self.heat(doing, line),
            Verb::Reduce => self.reduce(doing, line),
            Verb::Steep | Verb::Macerate => self.steep(doing, line),
            Verb::Strain => self.strain(doing),
            Verb::Blend => self.blend(doing, line),
            Verb::Cool => self.cool(doing, line),
            Verb::Chill => self.chill(doing, line),
            // Ice isn't on the map; that it is to be frozen stands in the note.
            Verb::Freeze => self.put_named(doing, line),
            Verb::Stir => self.stir(doing, line),
            Verb::TopUp => self.top_up(doing, line),
            Verb::Bottle | Verb::Serve => {
                // "Serve over ice with mint": what is named is for the glass. An amount that is said goes in.
                let measured = doing.uses.iter().any(|u| matches!(u.share, Share::Amount(_)));
                if measured && doing.verb == Verb::Serve {
                    self.put_named(doing, line);
                }
            }
        }
    }

    /// Says what was assumed for the step that came last.
    fn guess_of_last(&mut self, why: &str) {
        self.guess(self.drink.steps.len() - 1, why);
    }

    fn rub(&mut self, doing: &Doing, line: Option<&Amount>) {
        let vessel = match &self.at {
            Some(at) if self.holds(at) => at.clone(),
            _ => self.go_to(doing.vessel.unwrap_or(VesselKind::Bowl)),
        };
        self.put_all(doing, &vessel, line);
        if !self.holds(&vessel) {
            return;
        }
        let (minutes, place) = (doing.minutes.unwrap_or(4.0), RestingPlace::Worktop);
        self.push(Action::Macerate { vessel, minutes, how: Maceration::Rubbed, place });
        if doing.minutes.is_none() {
            self.guess_of_last("No time given for rubbing: we used 4 minutes.");
        }
    }

    fn boil(&mut self, how: Vigour, doing: &Doing, line: Option<&Amount>) {
        let pot = self.take_to_the_pot(doing, line);
        if !self.holds(&pot) {
            return;
        }
        self.hot = true;
        // "Bring to the boil" is the way to what comes next.
        let minutes = doing.minutes.unwrap_or(0.0).min(limits::MINUTES);
        match self.drink.steps.last_mut().map(|s| &mut s.action) {
            Some(Action::Boil { vessel, minutes: before, how: hard, lid })
                if *vessel == pot && *before == 0.0 =>
            {
                (*before, *hard, *lid) = (minutes, how, doing.covered);
            }
            _ => self.push(Action::Boil { vessel: pot, minutes, how, lid: doing.covered }),
        }
    }

    fn heat(&mut self, doing: &Doing, line: Option<&Amount>) {
        let pot = self.take_to_the_pot(doing, line);
        if !self.holds(&pot) {
            return;
        }
        self.hot = true;
        let sugar = self.lies_in(&pot, |it| it.form == Form::Crystals);
        let usual = if doing.clear { 75.0 } else { 80.0 };
        let minutes = doing.minutes.unwrap_or(0.0);
        self.push(Action::Heat {
            vessel: pot,
            to_c: doing.to_c.unwrap_or(usual).clamp(25.0, 110.0),
            minutes,
            lid: doing.covered,
            until_clear: sugar && minutes == 0.0 && (doing.clear || doing.to_c.is_none()),
        });
        if doing.to_c.is_none() && !doing.clear {
            self.guess_of_last("No temperature given.");
        }
    }

    /// Pours some of what is in hand where it is wanted; the rest stands aside. Whether it did.
    fn some_of_it(&mut self, doing: &Doing, kind: VesselKind) -> bool {
        let (Some(volume), Some(from)) = (doing.out_of_it.clone(), self.at.clone()) else {
            return false;
        };
        let into = self.vessel(kind);
        let more = volume.as_millilitres().is_some_and(|ml| ml < self.level_of(&from));
        let some = from != into && self.holds(&from) && more;
        if some {
            self.push(Action::Pour { from, into: into.clone(), portion: Portion::Volume(volume) });
            self.now_holds(&into);
        }
        some
    }

    fn blend(&mut self, doing: &Doing, line: Option<&Amount>) {
        // What is blended by itself doesn't take the syrup along that stands ready.
        let other = |at: &str| at != "blender" && self.holds(at) && !self.lies_there(doing, at);
        let apart = !self.about(doing).is_empty()
            && !doing.mixture
            && !doing.everything
            && self.at.as_deref().is_some_and(other);
        let kind = VesselKind::Blender;
        let some = self.some_of_it(doing, kind);
        let blender = if apart || some { self.vessel(kind) } else { self.go_to(kind) };
        self.at = Some(blender.clone());
        self.put_all(doing, &blender, line);
        if !self.holds(&blender) {
            self.begin_with(&blender, line);
        }
        if self.holds(&blender) {
            let seconds = doing.minutes.map_or(30.0, |m| (m * 60.0).clamp(1.0, 600.0));
            self.push(Action::Blend { vessel: blender, seconds });
        }
    }

    fn cool(&mut self, doing: &Doing, line: Option<&Amount>) {
        let there = self.at.clone().filter(|v| self.hot && self.holds(v));
        if let Some(vessel) = there {
            let (place, covered) = (CoolingPlace::Worktop, doing.covered);
            self.push(Action::Cool { vessel, to_c: 22.0, place, covered });
            self.hot = false;
        }
        self.put_named(doing, line);
    }

    fn chill(&mut self, doing: &Doing, line: Option<&Amount>) {
        self.put_named(doing, line);
        let solids = |at: &str| self.lies_in(at, |it| it.form == Form::Pieces);
        let draws = doing.minutes.is_some_and(|m| m >= 60.0);
        if draws && self.at.as_deref().is_some_and(solids) {
            // Fruit under sugar, or peel in a syrup: it draws for as long as it stands there.
            let there = Doing { refrigerator: true, uses: Vec::new(), ..doing.clone() };
            self.steep(&there, line);
        } else if let Some(vessel) = self.at.clone().filter(|v| self.holds(v)) {
            let (place, covered) = (CoolingPlace::Refrigerator, doing.covered);
            self.push(Action::Cool { vessel, to_c: 7.0, place, covered });
        }
        (self.hot, self.chilled) = (false, true);
    }

    /// What is named and lies in what is in hand is lifted out.
    fn lift(&mut self, doing: &Doing) {
        let Some(from) = self.at.clone().filter(|v| self.holds(v)) else { return };
        for one in &doing.uses {
            let id = &one.found.id;
            let solid = self.cupboard.ingredient(id).is_some_and(|it| it.form == Form::Pieces);
            let out =
                |s: &Step| matches!(&s.action, Action::Lift { ingredient, .. } if ingredient == id);
            if !solid || !self.lies_in(&from, |it| it.id == *id) || self.drink.steps.iter().any(out)
            {
                continue;
            }
            // On a plate of its own: what is lifted out isn't part of the drink any more.
            if self.drink.vessel("plate").is_none() {
                self.drink.vessels.push(Vessel::new("plate", VesselKind::Bowl));
            }
            self.push(Action::Lift {
                from: from.clone(),
                ingredient: id.clone(),
                into: "plate".into(),
            });
        }
    }

    fn put_named(&mut self, doing: &Doing, line: Option<&Amount>) {
        if !self.about(doing).is_empty() {
            let vessel = self.here(VesselKind::Jug);
            self.put_all(doing, &vessel, line);
        }
    }

    fn put_in(&mut self, doing: &Doing, line: Option<&Amount>) {
        let on_the_stove = self.at.as_deref() == Some("pot") && self.holds("pot");
        if doing.aside && doing.vessel.is_none() && on_the_stove {
            let jug = self.vessel(VesselKind::Jug);
            if !self.holds(&jug) {
                return self.put_all(doing, &jug, line);
            }
        }
        let things = self.about(doing);
        if doing.rinses && self.rinse(doing, &things) {
            return;
        }
        // Juice isn't squeezed into a pot that is on the ring.
        let jug = (doing.verb == Verb::Squeeze && self.at.is_none()).then_some(VesselKind::Jug);
        let kind = doing.vessel.or(jug);
        let pan = self.small_pan(doing);
        let vessel = match kind {
            _ if pan.is_some() => pan.unwrap_or_default(),
            Some(kind) => {
                let to = self.vessel(kind);
                // "Tip the sugar into a pan" leaves the juice where it is.
                let solid = |e: &(usize, f64)| {
                    self.ingredient(e.0).is_some_and(|it| it.form != Form::Liquid)
                };
                let poured = doing.verb == Verb::Pour && !things.iter().any(solid);
                let moves = doing.mixture || things.is_empty() || poured;
                if let Some(at) = self.at.clone()
                    && at != to
                    && moves
                {
                    self.pour(&at, &to);
                }
                self.at = Some(to.clone());
                to
            }
            None => self.here(VesselKind::Jug),
        };
        // "Add the syrup": what stands aside comes to what is in hand.
        if doing.mixture && things.is_empty() && kind.is_none() {
            self.gather(&vessel);
        }
        if doing.covers && self.cover(doing, &things, &vessel) {
            return;
        }
        // What is poured over goes on top of what the sentence names besides.
        let mut ordered = things.clone();
        ordered.sort_by_key(|(e, _)| {
            matches!(self.kind(*e), Some(Kind::Water)) && doing.verb == Verb::Pour
        });
        if ordered != things {
            let mut first = doing.clone();
            first.uses.retain(|u| {
                self.cupboard.ingredient(&u.found.id).is_some_and(|it| it.kind != Kind::Water)
            });
            self.put_all(&first, &vessel, line);
        }
        self.put_all(doing, &vessel, line);
        if (doing.mixture && !things.is_empty() || doing.everything) && doing.verb == Verb::Put {
            self.gather(&vessel);
        }
        if let Some(minutes) = doing.minutes.filter(|m| *m >= 3.0)
            && self.holds(&vessel)
        {
            self.push(Action::Infuse {
                vessel,
                minutes,
                place: RestingPlace::Worktop,
                covered: doing.covered,
            });
        }
    }

    /// Washes out what stayed in the sieve, if something was strained. Whether it did.
    fn rinse(&mut self, doing: &Doing, things: &[(usize, f64)]) -> bool {
        let strained = self.drink.steps.iter().rev().find_map(|s| match &s.action {
            Action::Strain { through, into, .. } => Some((through.clone(), into.clone())),
            _ => None,
        });
        let water = things.iter().find(|(e, _)| self.kind(*e) == Some(Kind::Water));
        let (Some((sieve, into)), Some(&(water, share))) = (strained, water) else { return false };
        let into = self.at.clone().unwrap_or(into);
        let Some(ingredient) = self.item(water).ingredient.clone() else { return false };
        let Some(amount) = self.take(water, share) else { return false };
        let warmth = doing.poured.unwrap_or(self.item(water).warmth);
        let press = if doing.pressed { Press::Pressed } else { Press::Drained };
        self.push(Action::Rinse {
            vessel: sieve,
            ingredient,
            amount,
            warmth,
            through: None,
            into: into.clone(),
            press,
        });
        self.now_holds(&into);
        true
    }

    /// "Cover with water" is as much as that takes. Whether it is covered so.
    fn cover(&mut self, doing: &Doing, things: &[(usize, f64)], vessel: &str) -> bool {
        let unsaid = |e: usize| {
            self.kind(e) == Some(Kind::Water) && !self.item(e).said && !self.item(e).fills
        };
        let water = things.iter().map(|(e, _)| *e).find(|e| unsaid(*e));
        let Some(water) = water.filter(|_| self.lies_in(vessel, |it| it.form == Form::Pieces))
        else {
            return false;
        };
        let Some(ingredient) = self.item(water).ingredient.clone() else { return false };
        self.left[water] = 0.0;
        let warmth = doing.poured.unwrap_or(self.item(water).warmth);
        self.hot |= matches!(warmth, Warmth::Boiling | Warmth::Hot);
        self.push(Action::Cover { vessel: vessel.into(), ingredient, warmth, above_mm: FINGER });
        true
    }

    /// What stands in other vessels is poured to what is in hand.
    pub(super) fn gather(&mut self, into: &str) {
        let others: Vec<String> = self.holding.iter().filter(|v| *v != into).cloned().collect();
        for other in others {
            self.pour(&other, into);
        }
    }

    fn steep(&mut self, doing: &Doing, line: Option<&Amount>) {
        self.put_named(doing, line);
        if !self.at.as_deref().is_some_and(|at| self.holds(at)) {
            let vessel = self.here(doing.vessel.unwrap_or(VesselKind::Jug));
            self.begin_with(&vessel, line);
        }
        let Some(vessel) = self.at.clone().filter(|v| self.holds(v)) else { return };
        self.put_hot_water(&vessel);
        let Some(minutes) = doing.minutes else {
            // "Let it stand" before anything else: as usual.
            if self.hot {
                self.push(Action::Infuse {
                    vessel,
                    minutes: 15.0,
                    place: RestingPlace::Worktop,
                    covered: doing.covered,
                });
                self.guess_of_last("No time given: we used 15 minutes.");
            }
            return;
        };
        let place =
            if doing.refrigerator { RestingPlace::Refrigerator } else { RestingPlace::Worktop };
        let liquid = self.drink.steps.iter().any(|s| {
            s.action.brings().is_some_and(|b| {
                self.cupboard.ingredient(b.ingredient).is_some_and(|it| {
                    it.form == Form::Liquid
                        && matches!(
                            it.kind,
                            Kind::Water
                                | Kind::Juice
                                | Kind::Soda
                                | Kind::Dairy
                                | Kind::Acid
                                | Kind::Spirit
                        )
                })
            })
        });
        let minutes = minutes.min(limits::MINUTES);
        if liquid {
            self.push(Action::Infuse { vessel, minutes, place, covered: doing.covered });
        } else {
            self.push(Action::Macerate { vessel, minutes, how: Maceration::Left, place });
        }
    }

    /// "1.5 l water, 90 °C" and "Steep the leaves": nobody steeps them dry, though no sentence pours it.
    fn put_hot_water(&mut self, vessel: &str) {
        let wet = self.lies_in(vessel, |it| it.form == Form::Liquid);
        let hot = |cook: &Self, e: &usize| {
            cook.left[*e] > 0.0
                && cook.claims[*e].is_none_or(|last| last <= cook.now)
                && cook.kind(*e) == Some(Kind::Water)
                && matches!(cook.item(*e).warmth, Warmth::Boiling | Warmth::Hot)
        };
        let found = (0..self.entries.len()).find(|e| !wet && hot(self, e));
        if let Some(entry) = found {
            self.put(entry, self.left[entry], vessel);
            self.hot = true;
        }
    }

    fn strain(&mut self, doing: &Doing) {
        let Some(from) = self.at.clone().filter(|v| self.holds(v)) else {
            // "Drain the almonds and grind them": they were soaked, and wait for where they go.
            let named: Vec<usize> = self.about(doing).into_iter().map(|(entry, _)| entry).collect();
            return self.prepared.extend(named);
        };
        let through =
            self.vessel(if doing.cloth { VesselKind::Cloth } else { VesselKind::FineSieve });
        let stands = self.holding.iter().rfind(|v| **v != from).cloned();
        let to = match doing.vessel {
            _ if doing.into_what_stands && stands.is_some() => stands.unwrap_or_default(),
            Some(kind) if self.vessel(kind) != from => self.vessel(kind),
            _ if from == "jug" => self.vessel(VesselKind::Pitcher),
            _ => self.vessel(VesselKind::Jug),
        };
        if doing.onto {
            for (entry, share) in self.about(doing) {
                self.put(entry, share, &to);
            }
        }
        let press = if doing.pressed { Press::Pressed } else { Press::Drained };
        self.push(Action::Strain { from: from.clone(), through, into: to.clone(), press });
        self.holding.retain(|v| *v != from);
        self.now_holds(&to);
        self.at = Some(to);
    }

    fn stir(&mut self, doing: &Doing, line: Option<&Amount>) {
        let things = self.about(doing);
        let or = doing.vessel.unwrap_or(VesselKind::Jug);
        let nothing = things.is_empty() && !self.at.as_deref().is_some_and(|at| self.holds(at));
        let vessel = match (doing.vessel, &self.at) {
            (Some(kind), _) if !things.is_empty() => {
                let id = self.vessel(kind);
                self.at = Some(id.clone());
                id
            }
            _ => self.here(or),
        };
        self.put_all(doing, &vessel, line);
        if nothing && self.holding.is_empty() {
            self.begin_with(&vessel, line);
        }
        if doing.mixture && !things.is_empty() || doing.everything {
            self.gather(&vessel);
        }
        if !self.holds(&vessel) {
            return;
        }
        let sugar = self.lies_in(&vessel, |it| it.form == Form::Crystals);
        if doing.clear && sugar {
            self.push(Action::Dissolve { vessel, how: Dissolving::Stirred });
        } else if !matches!(
            self.drink.steps.last().map(|s| &s.action),
            Some(Action::Stir { .. } | Action::Dissolve { .. })
        ) {
            self.push(Action::Stir { vessel, until: Stirring::Mixed });
        }
    }

    fn reduce(&mut self, doing: &Doing, line: Option<&Amount>) {
        let pot = self.take_to_the_pot(doing, line);
        if !self.holds(&pot) {
            return;
        }
        self.hot = true;
        let level = self.level_of(&pot);
        let (share, guessed) = (doing.down_to.unwrap_or(0.67), doing.down_to.is_none());
        let to =
            match doing.amount.as_ref().filter(|a| a.as_millilitres().is_some_and(|ml| ml < level))
            {
                Some(amount) => amount.clone(),
                None => Amount::millilitres(kitchen_round(level * share)),
            };
        if level > 20.0 {
            let (to, guessed) = match doing.to_brix {
                Some(brix) => (Reduction::Brix(brix), false),
                None => (Reduction::Volume(to), guessed),
            };
            self.push(Action::Reduce { vessel: pot, to, how: Vigour::Simmer });
            if guessed {
                self.guess_of_last("No end point given: we reduced it by a third.");
            }
        }
    }

    /// How much stands in a vessel so far, by running what there is.
    pub(super) fn level_of(&self, vessel: &str) -> f64 {
        let mut so_far = self.drink.clone();
        so_far.name_steps();
        if !so_far.check(self.cupboard).is_empty() {
            return 0.0;
        }
        let trace = Trace::run(&so_far, self.cupboard);
        let Some(at) = so_far.vessel(vessel) else { return 0.0 };
        so_far
            .steps
            .len()
            .checked_sub(1)
            .and_then(|last| trace.after(last, at))
            .map_or(0.0, |c| c.level().0)
    }

    fn top_up(&mut self, doing: &Doing, line: Option<&Amount>) {
        let vessel = match doing.vessel {
            Some(kind) => {
                let to = self.vessel(kind);
                if let Some(at) = self.at.clone() {
                    self.pour(&at, &to);
                }
                self.at = Some(to.clone());
                to
            }
            None => self.here(VesselKind::Jug),
        };
        let measured: Vec<(usize, f64)> = self
            .about(doing)
            .into_iter()
            .filter(|(e, _)| !self.item(*e).fills && self.item(*e).amount.is_some())
            .collect();
        // Fizz is for the end, and so is what fills.
        if !measured.is_empty() {
            self.gather(&vessel);
        }
        for (entry, share) in measured {
            self.put(entry, share, &vessel);
        }
        // Where all the rest is in, it is filled up now and not after it was chilled.
        let filler = (0..self.entries.len()).find(|e| self.item(*e).fills && self.left[*e] > 0.0);
        let waits = (0..self.entries.len()).any(|e| {
            let item = self.item(e);
            self.left[e] > 0.0 && !item.fills && !item.garnish && self.kind(e) != Some(Kind::Ice)
        });
        if let Some((entry, to)) = filler.zip(line)
            && !waits
            && self.kind(entry) != Some(Kind::Soda)
        {
            self.gather(&vessel);
            self.fill(entry, to, &vessel);
        }
    }

    /// Fills up to a line, if it isn't reached yet.
    pub(super) fn fill(&mut self, entry: usize, to: &Amount, vessel: &str) {
        let Some(id) = self.item(entry).ingredient.clone() else { return };
        if to.as_millilitres().is_some_and(|ml| ml > self.level_of(vessel) + 5.0) {
            self.push(Action::TopUp {
                vessel: vessel.into(),
                ingredient: id,
                warmth: self.item(entry).warmth,
                to: to.clone(),
            });
            self.now_holds(vessel);
            self.left[entry] = 0.0;
        }
    }
}
