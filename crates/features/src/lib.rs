//! One choice of features for everything that is built here; see `Cargo.toml`. There is no code.
