//! Made-up engines with known faults.
//!
//! An engine is drawn from a seed: injectors with their wear and dirt, cylinders, wires, fuel, pump. A
//! person takes readings from it with instruments that are as good as their certificates, and slips now
//! and then. What is true stays known beside what was read, so that every judgement can be scored.
//!
//! The crate knows the records and quantities of the core and nothing of its judgement: readings follow
//! from [`physics`], never from a table of outcomes. It is pure: no clock, no file, and every draw from a
//! seed that is passed in, the same on every machine.
//!
//! - [`physics`]: formulas, each with its source.
//! - [`injector`]: what an injector is made of, and what follows from it.
//! - [`engine`]: cylinders, wires, rail and fuel around the injectors.
//! - [`fault`]: faults that change physical parameters by a stated size.
//! - [`truth`]: what is true of an injector, and what puts it right.
//! - [`draw`]: draws from a seed.
//! - [`signal`]: sounds and currents.
//! - [`population`]: who comes in, and what is told.
//! - [`second`]: another population on a code path of its own, never tuned on.

pub mod draw;
pub mod engine;
pub mod exam;
pub mod fault;
#[cfg(test)]
mod golden;
pub mod injector;
pub mod physics;
pub mod population;
pub mod reading;
pub mod score;
pub mod second;
pub mod signal;
pub mod technician;
pub mod truth;

#[cfg(test)]
mod tests {
    /// Nothing here may know the judgement, and nothing of the judgement is read as a file.
    #[test]
    fn no_table_of_the_judgement_is_known_here() {
        let folder = std::path::Path::new(env!("CARGO_MANIFEST_DIR")).join("src");
        let mut open = vec![folder];
        let mut read = 0;
        while let Some(path) = open.pop() {
            if path.is_dir() {
                open.extend(std::fs::read_dir(&path).unwrap().map(|entry| entry.unwrap().path()));
                continue;
            }
            let text = std::fs::read_to_string(&path).unwrap();
            read += 1;
            for known in [["core::", "judgement"], ["weights", ".toml"], ["tests::", "outcomes"]] {
                let known = known.concat();
                let only_follows = path.ends_with("technician/follows.rs");
                assert!(only_follows || !text.contains(&known), "{} knows {known}", path.display());
            }
        }
        assert!(read >= 5, "the folder was read");
    }
}
