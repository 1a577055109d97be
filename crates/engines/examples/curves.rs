//! The curves of every kind of injector as one page, to be looked at before the model is believed:
//!
//! ```sh
//! cargo run --package cobaltine-engines --example curves > curves.html
//! ```

use cobaltine_core::engine::FuelSystem;
use cobaltine_engines::injector::{Dirt, Injector, nominal};
use cobaltine_engines::physics::{Fluid, Liquid};

/// Width and height of a picture.
const SIZE: (f64, f64) = (380.0, 240.0);
const COLOURS: [&str; 6] = ["#0f1a2e", "#b3541e", "#2b6cb0", "#2f855a", "#805ad5", "#b7791f"];

type Curve = (&'static str, Vec<(f64, f64)>);

fn picture(title: &str, along: &str, up: &str, curves: &[Curve]) -> String {
    let all = || curves.iter().flat_map(|(_, points)| points.iter().copied());
    let (most_x, most_y) =
        all().fold((1e-9, 1e-9), |(x, y): (f64, f64), p| (x.max(p.0), y.max(p.1)));
    let (w, h) = SIZE;
    let at = |(x, y): (f64, f64)| {
        format!("{:.1},{:.1}", 40.0 + (w - 50.0) * x / most_x, h - 30.0 - (h - 60.0) * y / most_y)
    };
    let mut text = format!(
        "<svg width='{w}' height='{h}' viewBox='0 0 {w} {h}' font-family='sans-serif' font-size='11'>\
         <text x='40' y='14' font-weight='bold'>{title}</text>\
         <path d='M40 30V{b}H{r}' fill='none' stroke='#889'/>\
         <text x='{r}' y='{l}' text-anchor='end'>{along}, to {most_x:.4}</text>\
         <text x='44' y='28'>{up}, to {most_y:.4}</text>",
        b = h - 30.0,
        r = w - 10.0,
        l = h - 12.0,
    );
    for (nth, (name, points)) in curves.iter().enumerate() {
        let line: Vec<String> = points.iter().map(|point| at(*point)).collect();
        let colour = COLOURS[nth % COLOURS.len()];
        text.push_str(&format!(
            "<polyline fill='none' stroke='{colour}' stroke-width='1.6' points='{}'/>\
             <text x='50' y='{}' fill='{colour}'>{name}</text>",
            line.join(" "),
            44 + 13 * nth
        ));
    }
    text + "</svg>"
}

fn over(from: f64, to: f64, of: impl Fn(f64) -> f64) -> Vec<(f64, f64)> {
    (0..=60).map(|n| from + (to - from) * f64::from(n) / 60.0).map(|x| (x, of(x))).collect()
}

fn main() {
    println!("<!doctype html><meta charset='utf-8'><title>Curves of made-up injectors</title>");
    for fuel in FuelSystem::ALL {
        let (kind, new) = (nominal(fuel), Injector::new(fuel));
        let dirty = |dirt| Injector { dirt, ..new };
        let those = [
            ("sound", new),
            ("deposits 30 %", dirty(Dirt { holes: 0.3, ..Dirt::default() })),
            ("basket 90 % closed", dirty(Dirt { basket: 0.9, ..Dirt::default() })),
            ("holes + 20 %", Injector { holes: 1.2, ..new }),
            ("late by 30 %", dirty(Dirt { late_ms: 0.3 * kind.dead.usual_ms, ..Dirt::default() })),
            ("lift 0.8", Injector { lift: 0.8, ..new }),
        ];
        println!("<h2>{fuel:?}</h2>");
        for (title, kpa, most_ms) in [
            ("idle pressure", kind.idle_kpa, 1.5 * kind.idle_ms),
            ("load", kind.load_kpa, kind.load_ms),
        ] {
            let curves: Vec<Curve> = those
                .iter()
                .map(|(name, one)| {
                    (
                        *name,
                        over(0.0, most_ms, |ms| one.delivered_mm3(ms, kind.dead.volts, kpa, 800.0)),
                    )
                })
                .collect();
            println!("{}", picture(title, "pulse, ms", "mm³ a stroke", &curves));
        }
        let volts =
            over(0.5 * kind.dead.volts, 1.2 * kind.dead.volts, |v| new.dead_ms(v, kind.idle_kpa));
        println!("{}", picture("opening", "V", "dead time, ms", &[("sound", volts)]));
        if matches!(fuel, FuelSystem::DieselSolenoid | FuelSystem::DieselPiezo) {
            let fluid = Fluid::new(Liquid::Diesel);
            let back = |one: Injector, celsius: f64| {
                over(5_000.0, kind.load_kpa, move |kpa| {
                    one.return_ml_min(
                        400.0,
                        kind.idle_ms,
                        kpa,
                        &Fluid::new(Liquid::Diesel),
                        celsius,
                    )
                })
            };
            let curves = [
                ("sound, 85 °C", back(new, 85.0)),
                ("sound, 25 °C", back(new, 25.0)),
                ("gap 5.2 µm", back(Injector { guide_um: 5.2, ..new }, 85.0)),
                ("valve seat 0.002 mm²", back(Injector { valve_mm2: 0.002, ..new }, 85.0)),
            ];
            println!("{}", picture("return flow at idle", "kPa", "ml/min", &curves));
            let warm = over(20.0, 100.0, |c| new.standing_ml_min(kind.idle_kpa, &fluid, c));
            println!("{}", picture("leaks standing", "°C", "ml/min", &[("sound", warm)]));
        }
    }
}
