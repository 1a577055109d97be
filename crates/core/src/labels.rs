//! The word of everything that the program names: each list once, here. Sentences take a word by
//! its code, and the browser gets the same lists as one file ([`as_json`]).

use serde::Serialize;

use crate::codes::SlotState;
use crate::engine::{EngineEnd, FuelSystem};
use crate::exercise::{Level, Skill};
use crate::instrument::InstrumentKind;
use crate::instrument_link::{DeviceKind, Quantity};
use crate::library::{CoilClass, FamilyKind, LimitCheck};
use crate::mark::Mark;
use crate::plan::StepState;
use crate::proving::{ItemState, PlaceProof};
use crate::record::Part;
use crate::role::Role;
use crate::said::Lack;
use crate::tests::bench::import::Column;
use crate::tests::bench::{BenchKind, BenchTest, RoundStage};
use crate::units::{DistanceUnit, FlowUnit, PressureUnit, TemperatureUnit, TorqueUnit};
use crate::work::{
    Condition, Correction, Decision, FaultCodes, Lately, Phase, Regime, Stage, Suffers, Symptom,
    Trouble,
};

/// Makes each list: `word` of each of its codes, and the list in the order of showing.
macro_rules! lists {
    ($($list:ident: $of:ident { $($code:ident: $word:literal,)* })*) => {
        $(impl $of {
            /// As shown and spoken.
            pub fn word(self) -> &'static str {
                match self {
                    $(Self::$code => $word,)*
                }
            }
        })*

        /// Every list in the order of showing, with its codes as they are in files.
        fn lists() -> Vec<(&'static str, Vec<(String, &'static str)>)> {
            vec![$((stringify!($list), vec![$((code(&$of::$code), $word),)*]),)*]
        }
    };
}

lists! {
    mark: Mark {
        Inside: "within",
        TooMuch: "too high",
        TooLittle: "too low",
        Look: "look closer",
        Undecided: "inconclusive",
        Questioned: "doubtful",
        NotMeasured: "not read",
    }
    device: DeviceKind {
        Bottles: "Return bottles",
        Gauge: "Pressure gauge",
        Meter: "Multimeter",
        PetrolBench: "Petrol bench",
        DieselBench: "Diesel bench",
        DoserBench: "Doser bench",
        Clamp: "Current clamp",
        Microphone: "Microphone",
        Scan: "Scan tool",
    }
    quantity: Quantity {
        Volume: "Volume",
        Returned: "Return volume",
        Pressure: "Pressure",
        Resistance: "Resistance",
        Voltage: "Voltage",
        Temperature: "Temperature",
        Speed: "Speed",
        Correction: "Correction",
        Misfires: "Misfires",
    }
    level: Level {
        GrossFault: "One gross fault",
        OneFault: "One fault",
        SharedCause: "A shared cause",
        NothingWrong: "Nothing wrong, perhaps",
        TwoFaults: "Two faults",
        EarlierRepair: "After an earlier repair",
    }
    skill: Skill {
        Finding: "Finding",
        Evidence: "Evidence",
        Measuring: "Measuring",
        Safety: "Safety",
        Economy: "Economy",
    }
    stage: Stage {
        TakeIn: "Take in",
        RuleOut: "Rule out",
        Electrical: "Electrical",
        OnEngine: "On engine",
        Bench: "Bench",
        Decide: "Decide",
        Refit: "Refit & code",
        Prove: "Prove",
    }
    pressure: PressureUnit {
        Kpa: "kPa",
        Bar: "bar",
        Mpa: "MPa",
        Psi: "psi",
    }
    torque: TorqueUnit {
        NewtonMetre: "N·m",
        InchPound: "in·lb",
        FootPound: "ft·lb",
    }
    temperature: TemperatureUnit {
        Celsius: "°C",
        Fahrenheit: "°F",
    }
    flow: FlowUnit {
        MlMin: "ml/min",
        CcMin: "cc/min",
    }
    distance: DistanceUnit {
        Km: "km",
        Mile: "miles",
    }
    decision: Decision {
        Leave: "Leave",
        Clean: "Clean",
        Adjust: "Adjust",
        Recode: "Recode",
        Match: "Match or move",
        Replace: "Replace or recondition",
        RepairHarness: "Repair wiring",
        LookElsewhere: "Look elsewhere",
        MeasureAgain: "Retest",
    }
    symptom: Symptom {
        MisfireLightLoad: "misfire at light load",
        MisfireLoad: "misfire under load",
        RoughIdle: "rough idle",
        LongCrankCold: "long crank, cold",
        LongCrankHot: "long crank, hot",
        NoStart: "does not start",
        BlackSmoke: "black smoke",
        WhiteSmoke: "white smoke",
        BlueSmoke: "blue smoke",
        HighConsumption: "high consumption",
        Knock: "knock",
        LowPower: "low power",
        CheckAndClean: "check and clean",
    }
    fuel: FuelSystem {
        DieselSolenoid: "Diesel, solenoid",
        DieselPiezo: "Diesel, piezo",
        PetrolPort: "Petrol, port",
        PetrolDirect: "Petrol, direct",
        ExhaustDoser: "Exhaust doser",
    }
    regime: Regime {
        IdleOnly: "Idle only",
        Stepped: "Idle, raised, idle",
        Cranking: "Cranking",
    }
    end: EngineEnd {
        Pulley: "pulley end",
        Flywheel: "flywheel end",
    }
    family_kind: FamilyKind {
        DieselSolenoid: "Diesel, solenoid",
        DieselPiezo: "Diesel, piezo",
        PetrolPortHigh: "Petrol, port, high resistance",
        PetrolPortLow: "Petrol, port, low resistance",
        PetrolDirectSolenoid: "Petrol, direct, solenoid",
        PetrolDirectPiezo: "Petrol, direct, piezo",
        ExhaustDoser: "Exhaust doser",
    }
    coil: CoilClass {
        HighImpedance: "An ordinary meter can decide its coil.",
        LowImpedance: "A few ohms: zero the leads before measuring its coil.",
        SubOhm: "Coil well below 1 Ω: an ordinary meter cannot decide.",
        Piezo: "Piezo stack: check capacitance and insulation, not coil resistance.",
    }
    limit_check: LimitCheck {
        ReturnFlow: "leak-off flow",
        CoilResistance: "coil resistance at 20 °C",
        Insulation: "insulation",
        StaticFlow: "static flow",
        Delivered: "delivered quantity",
        Returned: "leak-off quantity",
        OpeningPressure: "opening pressure",
        LeakVolume: "leak volume",
        DoserVolume: "doser volume",
        Lift: "lift",
        OpeningDelay: "opening delay",
    }
    round: RoundStage {
        Received: "as received",
        Cleaned: "cleaned",
        Adjusted: "adjusted",
        Final: "final",
    }
    bench: BenchKind {
        Petrol: "Petrol bench",
        Diesel: "Diesel bench",
        Doser: "Doser bench",
    }
    column: Column {
        Skip: "not needed",
        Tag: "tag",
        Position: "position",
        Label: "label",
        Point: "point",
        Volume: "tube",
        Delivered: "delivered",
        Returned: "leak-off",
        Delay: "opening delay",
    }
    instrument: InstrumentKind {
        Bottles: "Bottles",
        Timer: "Timer",
        Meter: "Meter",
        Gauge: "Gauge",
        Bench: "Test bench",
    }
    when: Condition {
        Cold: "cold",
        Hot: "hot",
        Idle: "at idle",
        LightLoad: "at light load",
        Load: "under load",
        Cranking: "cranking",
        AfterStanding: "after standing",
        AfterRefuelling: "after refuelling",
    }
    lately: Lately {
        RefuelledElsewhere: "refuelled elsewhere",
        RanDry: "ran dry",
        FilterChanged: "filter changed",
        InjectorsOut: "injectors were out",
        OtherRepair: "other repair",
        StoodLong: "parked for long",
    }
    suffers: Suffers {
        NotKnown: "not known",
        One: "one",
        Several: "several",
        All: "all",
    }
    codes: FaultCodes {
        NotRead: "not read yet",
        None: "none stored",
        Stored: "stored",
    }
    lack: Lack {
        StartConditions: "start conditions not ticked",
        Cold: "engine cold",
        Unloaded: "no load on the wire",
        LeadsNotZeroed: "meter leads not zeroed",
        NoTemperature: "temperature not measured",
        OneRun: "one run",
        FewRuns: "fewer runs than required",
        Overdue: "instrument overdue for calibration",
        NoPressure: "pressure not noted",
        NoEdition: "part revision not noted",
        NotCapped: "coolant ports not capped",
        TipAsFound: "tip not cleaned first",
        OthersNotCleaned: "the others were not cleaned",
        AskTheBracket: "first one not repeated",
        OrderProven: "corrected for drift",
        NearLine: "little beyond the line",
        ByOthers: "no limit, by the others only",
        LikeSlip: "looks like a slipped decimal",
    }
    phase: Phase {
        Idle: "idle",
        Raised: "raised speed",
        IdleAgain: "idle again",
    }
    step: StepState {
        Open: "to do",
        Waits: "later",
        Done: "done",
        Spared: "not needed",
        Skipped: "skipped",
    }
    correction: Correction {
        TypingSlip: "typing slip",
        Misread: "misread",
        WrongColumn: "wrong column",
        TappedByMistake: "tapped by mistake",
    }
    trouble: Trouble {
        Stuck: "stuck in the bore",
        SealLeftBehind: "seal left behind",
        Thread: "thread damaged",
        SeatBurnt: "seat burnt or pitted",
        LineDamaged: "line or connector damaged",
        Other: "something else",
    }
    part: Part {
        New: "New",
        Reconditioned: "Reconditioned",
        Tested: "Tested, off the shelf",
    }
    proof: ItemState {
        Open: "open",
        Good: "passed",
        Failed: "failed",
        Unsure: "not proven",
        LeftOut: "skipped",
    }
    place_proof: PlaceProof {
        Proven: "proven",
        NotRepeated: "not repeated",
        NeverMeasured: "never measured",
        Unsure: "inconclusive",
        Failed: "failed",
    }
    role: Role {
        Learner: "Learner",
        Technician: "Technician",
        Reviewer: "Reviewer",
        Owner: "Owner",
    }
    slot: SlotState {
        Fits: "matches",
        Differs: "code differs",
        Elsewhere: "other cylinder’s",
        Empty: "empty",
        NotKnown: "not known",
        NotRead: "not read yet",
        NotCaptured: "no code yet",
    }
}

fn code<T: Serialize>(of: &T) -> String {
    serde_json::to_value(of)
        .ok()
        .and_then(|value| value.as_str().map(str::to_owned))
        .unwrap_or_default()
}

/// Every list as the browser takes it, and the tests of the bench by their short names.
pub fn as_json() -> String {
    let tests = BenchTest::ALL.iter().map(|test| (code(test), test.short())).collect();
    let mut lists = lists();
    lists.push(("bench_test", tests));
    // The unit of a bare number of each limit, beside its field.
    let unit = |check: LimitCheck| (code(&check), check.field().kept_unit());
    lists.push(("limit_unit", LimitCheck::ALL.into_iter().map(unit).collect()));
    let list = |(name, words): &(&str, Vec<(String, &str)>)| {
        let lines: Vec<String> =
            words.iter().map(|(code, word)| format!("    \"{code}\": \"{word}\"")).collect();
        format!("  \"{name}\": {{\n{}\n  }}", lines.join(",\n"))
    };
    format!("{{\n{}\n}}\n", lists.iter().map(list).collect::<Vec<_>>().join(",\n"))
}

#[cfg(test)]
mod tests {
    use super::*;

    /// Two codes of one list that read alike would be one thing to whoever reads them.
    #[test]
    fn a_word_stands_for_one_code_of_its_list() {
        for (list, words) in lists() {
            for (i, (code, word)) in words.iter().enumerate() {
                assert!(!code.is_empty() && !word.is_empty(), "{list}: {code}");
                let other = words[..i].iter().find(|(_, other)| other == word);
                assert_eq!(other, None, "{list}: {code}");
            }
        }
    }

    #[test]
    fn the_browser_can_read_the_lists() {
        let lists: serde_json::Value = serde_json::from_str(&as_json()).unwrap();
        assert_eq!(lists["mark"]["undecided"], "inconclusive");
        assert!(lists["bench_test"].as_object().unwrap().len() > 10);
    }
}
