//! Slips on volumes: a dilution left out or upside down, an aliquot's volume for the titre's, a blank not subtracted.

use super::reach::{Reach, at};
use measure::{Dimension, InstrumentKind};
use practical::SheetRole;
use practical::slip::Slip;
use sheet::{Act, Change, Leaf, Place, Work};

impl Reach<'_> {
    /// The dilution factor that a definition is multiplied by in the end.
    pub(super) fn times(&mut self, name: &str) {
        if let Some(place) = self.definition(name).filter(|p| self.work(*p) == Work::Product) {
            self.add(Slip::DilutionIgnored, name, 1.0, vec![at(place, Act::First)]);
            self.add(Slip::DilutionInverted, name, 1.0, vec![at(place, Act::Inverse)]);
        }
    }

    /// Reagents that are a diluted stock: the factor is the last thing that their amount is divided by. A flask and a
    /// pipette on the same way are an aliquot.
    pub(super) fn dilutions(&mut self) {
        let diluted: Vec<String> = self
            .practical
            .materials
            .iter()
            .filter(|m| matches!(&m.supply, practical::Supply::Solution(s) if s.dilution.is_some()))
            .filter_map(|m| self.practical.roles.named(SheetRole::Amount, &m.symbol).map(str::to_owned))
            .collect();
        for name in diluted {
            if let Some(place) = self.definition(&name).filter(|p| self.work(*p) == Work::Quotient) {
                self.add(Slip::DilutionIgnored, &name, 1.0, vec![at(place, Act::First)]);
                self.add(Slip::DilutionInverted, &name, 1.0, vec![at(place, Act::Inverse)]);
            }
        }
        self.aliquots();
    }

    /// Volumes of a flask and of a pipette whose ratio is the aliquot factor: left out, or upside down.
    fn aliquots(&mut self) {
        let (flasks, pipettes) =
            (self.read_on(InstrumentKind::VolumetricFlask), self.read_on(InstrumentKind::VolumetricPipette));
        let divides = |f: Place, p: Place| self.places.iter().any(|q| self.is_aliquot_factor(*q, &[f], &[p]));
        let pairs: Vec<(String, Place, f64, Place, f64)> = flasks
            .iter()
            .flat_map(|(name, f, v)| {
                // One that is divided by a pipette of its own has nothing to do with another one.
                let own = pipettes.iter().any(|(_, p, _)| divides(*f, *p));
                let with = pipettes.iter().filter(move |(_, p, _)| !own || divides(*f, *p));
                with.map(|(_, p, a)| (name.clone(), *f, *v, *p, *a))
            })
            .collect();
        for (flask, f, volume, p, aliquot) in &pairs {
            let left_out: Vec<Change> = vec![at(*f, Act::Number(*aliquot))];
            self.add(Slip::DilutionIgnored, flask, 1.0, left_out);
            let inverted = vec![at(*f, Act::Number(*aliquot)), at(*p, Act::Number(*volume))];
            self.add(Slip::DilutionInverted, flask, 1.0, inverted);
        }
        self.series();
    }

    /// Several portions, each made up to the same flask: the factor of all of them left out, or upside down.
    fn series(&mut self) {
        for (flask, f, volume) in self.read_on(InstrumentKind::VolumetricFlask) {
            let made_up = |p: &&Place| {
                let operands = self.program().operands(**p);
                self.work(**p) == Work::Quotient && operands.get(1) == Some(&f)
            };
            let portions: Vec<(Place, f64)> = self
                .places
                .iter()
                .filter(made_up)
                .filter_map(|p| self.program().operands(self.program().operands(*p)[0]).last().copied())
                .filter(|p| matches!(self.work(*p), Work::Leaf(Leaf::Trial(..))))
                .flat_map(|p| self.program().trials(p))
                .filter_map(|p| Some((p, self.number(p)?)))
                .collect();
            let each = |made: &dyn Fn(f64) -> f64| -> Vec<Change> {
                portions.iter().map(|(p, taken)| at(*p, Act::Number(made(*taken)))).collect()
            };
            let (left_out, inverted) = (each(&|_| volume), each(&|taken| volume * volume / taken));
            self.add(Slip::DilutionIgnored, &flask, 1.0, left_out);
            self.add(Slip::DilutionInverted, &flask, 1.0, inverted);
        }
    }

    /// Whether a place is the quotient of the volumes of one of these flasks and one of these pipettes.
    fn is_aliquot_factor(&self, place: Place, flasks: &[Place], pipettes: &[Place]) -> bool {
        let operands = self.program().operands(place);
        self.work(place) == Work::Quotient
            && matches!(operands[..], [above, below] if flasks.contains(&above) && pipettes.contains(&below))
    }

    /// Single readings of a kind of glassware on the way, with what they come to.
    fn read_on(&self, kind: InstrumentKind) -> Vec<(String, Place, f64)> {
        let read = self.practical.readings.iter().filter(|r| r.instrument.kind == kind && r.repeats.is_none());
        read.filter_map(|r| {
            let [place] = self.reading_places(&r.symbol)[..] else { return None };
            Some((r.symbol.clone(), place, self.number(place)?))
        })
        .collect()
    }

    /// Whether a quotient is the aliquot factor of a flask and a pipette: upside down it is that slip, and no other.
    pub(super) fn is_a_dilution(&self, place: Place) -> bool {
        let places = |kind| self.read_on(kind).into_iter().map(|(_, p, _)| p).collect::<Vec<_>>();
        self.is_aliquot_factor(
            place,
            &places(InstrumentKind::VolumetricFlask),
            &places(InstrumentKind::VolumetricPipette),
        )
    }

    /// The aliquot in the place of the titre, and the other way.
    pub(super) fn swapped_volumes(&mut self, titre: &str, other: &str) {
        let program = self.program();
        let other_place = program.place_of(other).or_else(|| program.place_of_leaf(&Leaf::Reading(other.to_owned())));
        let Some(other_place) = other_place.filter(|p| p.count() == 1) else { return };
        let mean = self.practical.roles.named(SheetRole::MeanTitre, titre).and_then(|mean| self.definition(mean));
        let mean = mean.or_else(|| self.definition(titre).filter(|p| p.count() == 1));
        let (Some(mean), Some(a)) = (mean, self.number(other_place)) else { return };
        let volume =
            |p: Place| self.program().defines(p).and_then(|n| self.program().definition(n)).map(|d| d.dimension);
        let other_is_volume = volume(other_place)
            .or_else(|| self.practical.readings.iter().find(|r| r.symbol == other).map(|r| r.unit.dimension()))
            == Some(Dimension::VOLUME);
        if let Some(b) = self.number(mean).filter(|_| other_is_volume) {
            let mut changes = vec![at(other_place, Act::Number(b)), at(mean, Act::Number(a))];
            // Before it comes to the aliquot the slip shows in the titre alone.
            changes.retain(|c| self.places.contains(&c.place));
            self.add(Slip::VolumesSwapped, other, 1.0, changes);
        }
    }

    /// A difference whose second term is the blank.
    pub(super) fn blank(&mut self, blank: Option<&str>) {
        let Some(blank) = blank else { return };
        let program = self.program();
        let is_blank = |p: &Place| {
            program.defines(*p) == Some(blank) || matches!(self.work(*p), Work::Leaf(Leaf::Reading(s)) if s == blank)
        };
        let less: Vec<Place> = self
            .places
            .iter()
            .filter(|p| self.work(**p) == Work::Difference && program.operands(**p).get(1).is_some_and(is_blank))
            .copied()
            .collect();
        self.add(Slip::BlankIgnored, blank, 1.0, less.into_iter().map(|p| at(p, Act::First)).collect());
    }
}
