//! Makes the folder of the built front end exist, so that the crate compiles before the
//! first `npm run build`, and compiles anew when the build has changed.

fn main() {
    let dist = concat!(env!("CARGO_MANIFEST_DIR"), "/../../web/dist");
    if let Err(error) = std::fs::create_dir_all(dist) {
        println!("cargo::error=the folder {dist} could not be made: {error}");
    }
    println!("cargo::rerun-if-changed={dist}");
}
