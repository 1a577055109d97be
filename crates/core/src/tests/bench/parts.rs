//! `parts`: what was renewed in each injector, and whether the coils of the set match.
//!
//! # Source
//! House rule ([`RuleId::CoilsMatched`]).

mod words;

use super::compare::{Reading, compare, percent};
use super::ctx::Ctx;
use super::verdict::lanes;
use super::{BenchKind, BenchTest, Rows, Spec};
use crate::calc::CalcError;
use crate::caution;
use crate::mark::Mark;
use crate::quantity::figures;
use crate::rules::RuleId;
use crate::said::Code;
use crate::tests::Because;
use crate::tests::cell::{cell, choice};
use crate::tests::property::Property;
use crate::tests::verdict::{Lane, Verdict, marked};
use crate::typed::Field;
use crate::words::injectors;

crate::said::outcomes! {
    REBUILT_COIL_OFF = rebuilt_coil_off,
    REBUILT_COIL_MATCHED = rebuilt_coil_matched,
}

const KEPT: &[&str] = &["reused", "replaced"];
/// Last digit of a milliohm meter, Ω, where no instrument says otherwise.
pub(super) const METER_OHM: f64 = 0.001;

pub(super) const SPEC: Spec = Spec {
    title: "Parts and coils",
    short: "Parts",
    says: words::PARTS_RENEWED_COIL_EACH,
    cautions: &[caution::CHARGE],
    kinds: &[BenchKind::Diesel],
    pulses: false,
    rows: Rows::None,
    set: &[],
    row: &[],
    each: &[
        choice("nozzle", "Nozzle", KEPT),
        choice("valve", "Valve", KEPT),
        choice("armature", "Armature", KEPT),
        choice("seals", "Seals", KEPT),
        cell("coil", "Coil", Field::above_zero("ohm", 0.001, 1000.0)),
    ],
    tubes: &[],
    property: Property::LASTS,
    table: include_str!("parts.toml"),
    judge,
};

fn judge(ctx: &Ctx<'_>) -> Result<Verdict, CalcError> {
    let u = METER_OHM / 12.0_f64.sqrt();
    let coils: Vec<Reading> = ctx
        .read(BenchTest::Parts, None, "coil")
        .into_iter()
        .map(|(tag, value)| Reading { tag, value, u })
        .collect();
    let compared = compare(ctx, &coils, ctx.rules.share(RuleId::CoilsMatched))?;
    let lanes = lanes(ctx, |tag| {
        let renewed: Vec<&str> = SPEC
            .each
            .iter()
            .filter(|cell| ctx.of(BenchTest::Parts, None, tag, cell.name) == Some(1.0))
            .filter(|cell| !cell.choices().is_empty())
            .map(|cell| cell.word)
            .collect();
        let renewed = match renewed.as_slice() {
            [] => "Nothing renewed".to_owned(),
            some => format!("Renewed: {}", some.join(", ").to_lowercase()),
        };
        let coil = compared.iter().find(|c| c.tag == tag);
        let read = SPEC.each.iter().any(|c| ctx.of(BenchTest::Parts, None, tag, c.name).is_some());
        let lane = match coil {
            None => Lane::new(tag, Mark::Inside, "noted", format!("{renewed}.")),
            Some(one) => {
                let (mark, code, word) = match one.mark {
                    Mark::TooMuch | Mark::TooLittle => {
                        (Mark::Look, outcomes::REBUILT_COIL_OFF, "coil off")
                    }
                    Mark::Inside => (Mark::Inside, outcomes::REBUILT_COIL_MATCHED, "matched"),
                    Mark::Undecided | Mark::Look | Mark::Questioned | Mark::NotMeasured => {
                        (Mark::Undecided, Code::NO_REFERENCE, "inconclusive")
                    }
                };
                let share = one.share.map(percent).unwrap_or_default();
                let value = coils.iter().find(|c| c.tag == tag).map_or(0.0, |c| c.value);
                Lane::new(tag, mark, word, words::coil_against_others(&renewed, &share))
                    .says(code)
                    .shown(format!("{} Ω", figures(value)))
                    .because([one.because.clone()])
            }
        };
        let rules = ctx.rules.reasons(&[RuleId::CoilsMatched]);
        read.then(|| lane.because(rules.into_iter().map(Because::says)))
    });
    let off = marked(&lanes, &[Mark::Look]);
    let headline = match off.as_slice() {
        [] if coils.len() < 2 => words::READ_COILS_SET_MATCH.to_owned(),
        [] => words::COILS_SET_MATCH.to_owned(),
        off => words::coil_does_not_match(injectors(off)),
    };
    Ok(Verdict { headline, lanes, ..Verdict::default() }.closed())
}
