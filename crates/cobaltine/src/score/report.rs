//! The page of a run: pictures that need nothing from elsewhere, and the table for the terminal.

use super::Bad;
use crate::words;
use cobaltine_engines::exam::Results;
use std::fmt::Write;

/// Statements below which a tenth says nothing.
const ENOUGH: u64 = 200;

/// The table for the terminal.
pub(super) fn table(names: &[&str], results: &Results) -> String {
    let mut text = words::score_heading();
    for (at, name) in names.iter().enumerate() {
        let (own, first) = (&results.tallies[at], &results.on_ground[at]);
        let jobs = own.jobs.max(1) as f64;
        // Writing into a string cannot fail.
        let _ = writeln!(
            text,
            "{name:<26} {:>6} {:>7.1} {:>7.1} {:>7.2} {:>7.2} {:>7.1} {:>7.0} {:>7.0} {:>7.1} {:>6} {:>6.1}",
            own.jobs,
            own.found_pct(),
            first.found_pct(),
            own.condemned_pct(),
            first.condemned_pct(),
            own.undecided_pct(),
            own.sum.minutes / jobs,
            own.sum.cost / jobs,
            100.0 * own.sum.comebacks as f64 / jobs,
            own.sum.unsafe_steps,
            own.loops_pct(),
        );
    }
    let (brier, reliability, resolution) = results.calibration.brier();
    text.push_str(&words::score_odds(brier, reliability, resolution));
    for (at, (count, sum, hits)) in results.calibration.tenths.iter().enumerate() {
        if *count == 0 {
            continue;
        }
        let share = |part: f64| 100.0 * part / *count as f64;
        let few = if *count < ENOUGH { " (few)" } else { "" };
        let _ = writeln!(
            text,
            "{:>3} to {:>3} % {count:>8} {:>7.1} {:>7.1}{few}",
            at * 10,
            at * 10 + 10,
            share(*sum),
            share(*hits as f64),
        );
    }
    for (word, (count, held)) in words::INTERVALS.into_iter().zip(&results.calibration.intervals) {
        if *count > 0 {
            text.push_str(&words::intervals_held(
                word,
                count,
                100.0 * *held as f64 / *count as f64,
            ));
        }
    }
    text
}

fn escaped(text: &str) -> String {
    text.replace('&', "&amp;").replace('<', "&lt;").replace('>', "&gt;")
}

/// The whole page.
pub(super) fn page(names: &[&str], results: &Results, worst: &[Bad], jobs: u64) -> String {
    let mut page = format!(
        "<!doctype html><html lang=\"en-GB\"><meta charset=\"utf-8\"><title>{title}</title>\
         <style>body{{font:16px/1.45 system-ui,sans-serif;max-width:940px;margin:28px auto;color:#0f1a2e}}\
         svg{{max-width:100%}}td,th{{padding:4px 10px;text-align:left;border-bottom:1px solid #ccd}}\
         pre{{overflow:auto;background:#f3f2ec;padding:12px}}</style><h1>{title}</h1><p>{lead}</p>",
        title = words::SCORE_TITLE,
        lead = words::score_lead(jobs),
    );
    let _ = write!(page, "<h2>{}</h2>{}", words::SCORE_FOUND, scatter(names, results));
    let _ = write!(page, "<h2>{}</h2>{}", words::SCORE_ODDS, reliability(results));
    let _ = write!(page, "<pre>{}</pre>", escaped(&table(names, results)));
    if !worst.is_empty() {
        let _ = write!(
            page,
            "<h2>{}</h2><p>{}</p><table>",
            words::SCORE_WORST,
            escaped(words::SCORE_OPEN)
        );
        for bad in worst {
            let _ = write!(
                page,
                "<tr><td><a href=\"http://127.0.0.1:8427/jobs/{}/decide\">{}</a></td><td>{}</td><td>{:.1}</td></tr>",
                bad.file.job.id,
                bad.seed,
                escaped(&bad.truth),
                bad.worth
            );
        }
        page.push_str("</table>");
    }
    page.push_str("</html>\n");
    page
}

/// Faults found to the right, good ones condemned upwards: right and low is best.
fn scatter(names: &[&str], results: &Results) -> String {
    // Tenfold steps: what one of ten thousand is would lie on the line of what one of a hundred is.
    let steps = f64::from(LEAST.abs() + MOST);
    let y = |bad: f64| {
        let step = bad.max(10.0_f64.powi(LEAST)).log10() - f64::from(LEAST);
        360.0 - step / steps * 320.0
    };
    let x = |found: f64| 80.0 + found * 6.9;
    let mut svg = String::from("<svg viewBox=\"0 0 860 420\" role=\"img\">");
    let _ = write!(
        svg,
        "<path d=\"M80 40V360H780\" fill=\"none\" stroke=\"#0f1a2e\" stroke-width=\"2\"/>\
         <text x=\"400\" y=\"404\">{}</text><text x=\"8\" y=\"24\">{}</text>\
         <text x=\"76\" y=\"380\">0</text><text x=\"752\" y=\"380\">100</text>",
        words::SCORE_X,
        words::SCORE_Y,
    );
    for power in LEAST..=MOST {
        let bad = 10.0_f64.powi(power);
        let _ = write!(
            svg,
            "<path d=\"M80 {0:.1}H780\" stroke=\"#d5d8df\"/>\
             <text x=\"70\" y=\"{1:.1}\" text-anchor=\"end\" font-size=\"14\">{bad}</text>",
            y(bad),
            y(bad) + 5.0,
        );
    }
    let places = results.tallies.iter().map(|own| (x(own.found_pct()), y(own.condemned_pct())));
    let mut taken: Vec<(f64, f64, f64)> =
        places.map(|(cx, cy)| (cx - 7.0, cx + 7.0, cy + 5.0)).collect();
    for (at, name) in names.iter().enumerate() {
        let own = &results.tallies[at];
        let (cx, cy) = (x(own.found_pct()), y(own.condemned_pct()));
        let fill = if at == 0 { "#1d3dae" } else { "#8a90a0" };
        // A name stands where there is room: behind its mark, above, below, or before it.
        let wide = 6.8 * name.len() as f64;
        let room = [(11.0, 5.0), (11.0, -11.0), (11.0, 21.0), (-11.0 - wide, 5.0)];
        let free = |from: f64, line: f64| {
            from > 84.0
                && taken.iter().all(|(left, right, held)| {
                    from + wide < *left || from > *right || (held - line).abs() >= 15.0
                })
        };
        let places = room.map(|(aside, down)| (cx + aside, cy + down));
        let (from, line) =
            places.into_iter().find(|(from, line)| free(*from, *line)).unwrap_or(places[0]);
        taken.push((from, from + wide, line));
        let _ = write!(
            svg,
            "<rect x=\"{:.1}\" y=\"{:.1}\" width=\"12\" height=\"12\" fill=\"{fill}\"/>\
             <text x=\"{from:.1}\" y=\"{line:.1}\" font-size=\"14\">{}</text>",
            cx - 6.0,
            cy - 6.0,
            escaped(name),
        );
    }
    svg.push_str("</svg>");
    svg
}

/// Powers of ten that the picture of condemned ones spans, of a hundred.
const LEAST: i32 = -2;
const MOST: i32 = 2;

/// What was stated against what was true: on the line is honest.
fn reliability(results: &Results) -> String {
    let mut svg = String::from(
        "<svg viewBox=\"0 0 460 440\" role=\"img\" style=\"max-width:460px\">\
         <path d=\"M50 20V400H430\" fill=\"none\" stroke=\"#0f1a2e\" stroke-width=\"2\"/>\
         <path d=\"M50 400L430 20\" stroke=\"#8a90a0\" stroke-dasharray=\"5 5\"/>",
    );
    for (count, sum, hits) in results.calibration.tenths.iter().filter(|tenth| tenth.0 > 0) {
        let all = *count as f64;
        let (stated, seen) = (sum / all, *hits as f64 / all);
        let few = if *count < ENOUGH { "#c9cdd6" } else { "#1d3dae" };
        let _ = write!(
            svg,
            "<circle cx=\"{:.1}\" cy=\"{:.1}\" r=\"7\" fill=\"{few}\"><title>{count}</title></circle>",
            50.0 + stated * 380.0,
            400.0 - seen * 380.0,
        );
    }
    let _ = write!(
        svg,
        "<text x=\"170\" y=\"430\">{}</text><text x=\"6\" y=\"14\">{}</text></svg>",
        words::SCORE_STATED,
        words::SCORE_TRUE
    );
    svg
}
