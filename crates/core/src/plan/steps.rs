//! The steps that a plan is made from, in the order of the trade: cheap, quick and shared first.

use super::{PlanStep, StepId, StepState};
use crate::caution::{self, Caution, Work};
use crate::checks::sheet::SheetId;
use crate::engine::FuelSystem;
use crate::record::Intake;
use crate::work::{Condition, FaultCodes, Lately, Stage, Suffers, Symptom};

macro_rules! registry {
    ($($variant:ident = $name:ident: $check:expr;)*) => {
        /// Names one step.
        #[derive(Debug, Clone, Copy, PartialEq, Eq)]
        pub enum Step {
            $(
                #[doc = concat!("`", stringify!($name), "`")]
                $variant,
            )*
        }

        impl Step {
            /// Every step, in the order of the trade.
            pub const ALL: &[Self] = &[$(Self::$variant),*];

            /// As written in the database.
            pub fn name(self) -> &'static str {
                match self {
                    $(Self::$variant => stringify!($name),)*
                }
            }

            /// The check that it opens.
            pub fn check(self) -> Option<SheetId> {
                match self {
                    $(Self::$variant => $check,)*
                }
            }
        }
    };
}

registry! {
    Codes = codes: None;
    FuelSample = fuel_sample: Some(SheetId::FuelSample);
    Air = suction_air: Some(SheetId::SuctionAir);
    LowPressure = low_pressure: Some(SheetId::LowPressure);
    Shared = shared_causes: Some(SheetId::SharedCauses);
    RailRelief = rail_relief: Some(SheetId::RailRelief);
    Compression = compression: Some(SheetId::Compression);
    Supply = supply: Some(SheetId::Supply);
    Indicator = indicator: Some(SheetId::Indicator);
    Spark = spark: Some(SheetId::Spark);
    Coil = coil_resistance: Some(SheetId::CoilResistance);
    Stack = piezo_stack: Some(SheetId::PiezoStack);
    Insulation = insulation: Some(SheetId::Insulation);
    Cutout = cutout: Some(SheetId::Cutout);
    DiBalance = di_balance: Some(SheetId::DiBalance);
    ReturnTest = return_test: None;
    PressureDrop = pressure_drop: Some(SheetId::PressureDrop);
    Swap = swap: None;
    Bench = bench: None;
}

/// What the complaint comes down to.
pub(super) struct Complaint {
    /// It does not start, or only after long cranking.
    pub start: bool,
    /// It does not start at all.
    pub dead: bool,
    /// It misfires or idles roughly.
    pub rough: bool,
    /// It lacks power, smokes, knocks or drinks.
    pub burns: bool,
    /// It shows under load.
    pub load: bool,
    /// Nothing is wrong: check and clean.
    pub clean: bool,
    /// All cylinders suffer, or the last tank is a suspect.
    pub shared: bool,
}

impl Complaint {
    pub(super) fn of(intake: &Intake) -> Self {
        let has = |symptom: Symptom| intake.symptoms.contains(&symptom);
        let lately = |what: Lately| intake.story.lately.contains(&what);
        let when = |when: Condition| intake.story.when.contains(&when);
        let dead = has(Symptom::NoStart);
        Self {
            dead,
            start: dead
                || has(Symptom::LongCrankCold)
                || has(Symptom::LongCrankHot)
                || when(Condition::Cranking),
            rough: has(Symptom::MisfireLightLoad)
                || has(Symptom::MisfireLoad)
                || has(Symptom::RoughIdle),
            burns: [
                Symptom::BlackSmoke,
                Symptom::WhiteSmoke,
                Symptom::BlueSmoke,
                Symptom::HighConsumption,
                Symptom::Knock,
                Symptom::LowPower,
            ]
            .into_iter()
            .any(has),
            load: has(Symptom::MisfireLoad) || has(Symptom::LowPower) || when(Condition::Load),
            clean: intake.symptoms == [Symptom::CheckAndClean],
            shared: intake.story.suffers == Suffers::All
                || lately(Lately::RefuelledElsewhere)
                || lately(Lately::RanDry),
        }
    }
}

/// The step as planned from the complaint alone; none when it has no place in this job.
pub(super) fn planned(step: Step, intake: &Intake) -> Option<PlanStep> {
    let complaint = Complaint::of(intake);
    if step.check().is_some_and(|check| !check.fits(intake.fuel_system)) {
        return None;
    }
    let (why, spared_by) = reason(step, intake, &complaint)?;
    let form = step.check().map(|check| check.form(Some(intake.fuel_system)));
    let (title, stage, minutes, tools, cautions) = match (&form, step) {
        (Some(form), _) => (
            form.title.clone(),
            form.stage,
            form.minutes,
            form.tools.clone(),
            form.cautions.clone(),
        ),
        (None, step) => bare(step, intake.fuel_system),
    };
    let read = intake.story.fault_codes;
    let done = step == Step::Codes && read != FaultCodes::NotRead;
    Some(PlanStep {
        id: StepId::of(step),
        title,
        stage,
        check: step.check(),
        minutes,
        tools,
        cautions,
        why,
        spared_by: spared_by.to_owned(),
        state: if done { StepState::Done } else { StepState::Open },
        says: match (done, read) {
            (true, FaultCodes::Stored) => format!("Stored: {}", intake.story.codes),
            (true, FaultCodes::None | FaultCodes::NotRead) => {
                "None stored. A fault can be mechanical with none.".to_owned()
            }
            (false, _) => String::new(),
        },
    })
}

/// Steps without a check of their own: title, stage, minutes, tools, cautions.
fn bare(step: Step, fuel: FuelSystem) -> (String, Stage, u32, String, Vec<Caution>) {
    let (title, stage, minutes, tools, cautions): (_, _, _, _, &[Caution]) = match step {
        Step::Codes => (
            "Read the fault codes and the stored trim codes",
            Stage::TakeIn,
            5,
            "Scan tool, support charger",
            &[],
        ),
        Step::ReturnTest => (
            "Return test",
            Stage::OnEngine,
            25,
            "Bottles and hoses, blanks for the return rail, thermometer, rags",
            &[caution::JET, caution::RUNNING, caution::HOT, caution::WASTE],
        ),
        Step::Swap => (
            "Swap two injectors and repeat the test that named one",
            Stage::OnEngine,
            40,
            "New sealing washers and seals, torque spanner",
            &[caution::DEPRESSURISE, caution::JET],
        ),
        Step::Bench => (
            "Bench: leak, spray, flow; clean and repeat",
            Stage::Bench,
            60,
            "Bench, filter baskets, seals, caps, test fluid",
            &[caution::JET, caution::VAPOUR, caution::WASTE],
        ),
        Step::FuelSample
        | Step::Air
        | Step::LowPressure
        | Step::Shared
        | Step::RailRelief
        | Step::Compression
        | Step::Supply
        | Step::Indicator
        | Step::Spark
        | Step::Coil
        | Step::Stack
        | Step::Insulation
        | Step::Cutout
        | Step::DiBalance
        | Step::PressureDrop => ("", Stage::OnEngine, 0, "", &[]),
    };
    let by_fuel = [(Step::ReturnTest, Work::Return), (Step::Swap, Work::Swap)];
    let work = by_fuel.iter().find(|(of, _)| *of == step);
    let more = work.map_or_else(Vec::new, |(_, work)| work.cautions(fuel));
    (title.to_owned(), stage, minutes, tools.to_owned(), caution::with(cautions, &more))
}

/// Why the step is in this plan, and what would make it unnecessary.
fn reason(step: Step, intake: &Intake, c: &Complaint) -> Option<(String, &'static str)> {
    let lately = |what: Lately| intake.story.lately.contains(&what);
    let says = |why: &str, spared: &'static str| Some((why.to_owned(), spared));
    let one = intake.story.suffers == Suffers::One;
    match step {
        Step::Codes => says(
            "What the control unit stored costs five minutes; stored trim codes are written down before anything moves.",
            "Codes read at the counter.",
        ),
        Step::FuelSample if lately(Lately::RefuelledElsewhere) => says(
            "Refuelled somewhere unusual: the first suspect, and it speaks for all cylinders.",
            "Fuel known to be good.",
        ),
        Step::FuelSample if !c.clean => says(
            "Bad fuel hits all cylinders; a glass rules it out.",
            "Only one cylinder suffers and the fuel is known.",
        ),
        Step::Air if lately(Lately::RanDry) || lately(Lately::FilterChanged) => says(
            "It ran dry or the filter was changed: air first.",
            "A clear hose that stays full.",
        ),
        Step::Air if c.start || intake.story.when.contains(&Condition::AfterStanding) => says(
            "Fuel that falls back when parked makes a long crank.",
            "A start that is as long when it stood for a minute only.",
        ),
        Step::LowPressure if c.start || c.load || c.shared => says(
            "A starved pump makes good injectors look bad.",
            "Rail pressure that is reached and held.",
        ),
        Step::Shared if !one && !c.clean => says(
            "Not known to be one cylinder: look at what all share.",
            "One cylinder named, the others healthy.",
        ),
        Step::RailRelief if c.start || c.load => says(
            "A relief valve that runs loses the rail pressure whatever the injectors do.",
            "Rail pressure that is reached.",
        ),
        Step::Compression if c.rough || c.dead || c.burns => says(
            "A mechanical cylinder looks like a weak injector. Cranking current first; it is no proof, the gauge is.",
            "Even cranking figures and a cut-out that blames nobody.",
        ),
        Step::Supply if c.rough || c.dead => says(
            "No supply anywhere is a fuse; one missing is a leg; either way no injector.",
            "Nothing: it is the base of every electrical verdict.",
        ),
        Step::Indicator if c.rough || c.dead => says(
            "Before one is condemned for not clicking, prove that it is commanded.",
            "Supply missing everywhere.",
        ),
        Step::Spark if c.rough && !c.dead => says(
            "One petrol cylinder that misfires may be its spark: an exchange costs minutes, an injector costs money.",
            "A misfire that all cylinders share.",
        ),
        Step::Coil | Step::Stack if c.rough || c.dead || c.clean => says(
            "The odd one out is found in minutes, without opening a line.",
            "A leg or fuse already named.",
        ),
        Step::Insulation if c.rough || c.dead => {
            says("A leak to the body shows only here.", "All coils alike and all click.")
        }
        Step::Cutout if (c.rough || c.burns) && !c.dead => says(
            "Says in minutes which cylinder works less, not why.",
            "Another comparison that already names one cylinder.",
        ),
        Step::DiBalance if (c.rough || c.burns) && !c.dead => says(
            "The scan tool compares without a line opened.",
            "A tool that cannot do it on this engine.",
        ),
        Step::ReturnTest if intake.fuel_system.has_return() && c.dead => says(
            "Crank test: the returns can steal the pressure that it needs to start.",
            "Rail pressure that is reached while cranking.",
        ),
        Step::ReturnTest if intake.fuel_system.has_return() && c.load => says(
            "Under load: stepped, as some leak only when the pressure is up.",
            "All other causes proven.",
        ),
        Step::ReturnTest if intake.fuel_system.has_return() => says(
            "Inner wear shows as return; idle only, as the aim is to compare.",
            "A cause that all share, put right, and the complaint gone.",
        ),
        Step::PressureDrop if !c.dead || c.clean => says(
            "Each injector's own flow against the others, in place.",
            "The set going to the bench anyway.",
        ),
        Step::Swap => says(
            "Tells the injector from its line, wiring and cylinder.",
            "Nothing to follow, or a cause that is proven elsewhere.",
        ),
        Step::Bench => says(
            if c.clean {
                "Check and clean is bench work: flow before, clean, flow after."
            } else {
                "Only a bench shows spray, leak and flow."
            },
            "A cause found off the injector.",
        ),
        Step::FuelSample
        | Step::Air
        | Step::LowPressure
        | Step::Shared
        | Step::RailRelief
        | Step::Compression
        | Step::Supply
        | Step::Indicator
        | Step::Spark
        | Step::Coil
        | Step::Stack
        | Step::Insulation
        | Step::Cutout
        | Step::DiBalance
        | Step::ReturnTest
        | Step::PressureDrop => None,
    }
}
