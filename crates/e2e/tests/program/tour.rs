//! The tour of a newcomer leads to what is there.

use anyhow::Context;
use std::path::Path;

#[test]
fn every_stop_of_the_tour_names_a_file_and_something_in_it() -> anyhow::Result<()> {
    let docs = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../docs");
    let tour = std::fs::read_to_string(docs.join("tour.md"))?;
    let stops: Vec<&str> = tour.split("\n## ").skip(1).collect();
    assert_eq!(stops.len(), 10, "ten stops");
    for stop in stops {
        let title = stop.lines().next().unwrap_or_default();
        let mut links = 0;
        // [`name` in `file`](path): the file is there, and the name is in it.
        for link in stop.split("[`").skip(1) {
            let (name, rest) = link.split_once('`').context("a name ends")?;
            let path = rest.split_once("](").and_then(|(_, path)| path.split_once(')'));
            let path = path.context("a link has a path")?.0;
            let file = std::fs::read_to_string(docs.join(path))
                .with_context(|| format!("{title}: there is no {path}"))?;
            assert!(file.contains(name), "{title}: {path} has no `{name}`");
            links += 1;
        }
        assert!(links > 0, "{title}: it leads nowhere");
    }
    Ok(())
}
