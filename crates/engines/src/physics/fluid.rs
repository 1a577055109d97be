//! Density and viscosity of a fluid over its temperature.
//!
//! # Source
//! Walther's equation as in ASTM D341: log log (ν + 0.7) = A − B·log T, with T in kelvin and A and B from
//! two points. Density falls in a line (ASTM D1250 is nearly one over the range of a workshop). The
//! points are typical of the trade, of no maker.

/// What it is.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Liquid {
    /// Road diesel.
    Diesel,
    /// Petrol.
    Petrol,
    /// Calibration fluid of diesel benches.
    CalibrationFluid,
    /// White spirit, on petrol benches.
    WhiteSpirit,
}

/// A fluid, possibly thinned or thickened by what does not belong in it.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Fluid {
    liquid: Liquid,
    /// Viscosity against what it should be.
    thickness: f64,
}

/// Density at 15 °C, kg/m³; its fall for a kelvin; viscosity at 40 and at 100 °C, mm²/s.
fn points(liquid: Liquid) -> (f64, f64, f64, f64) {
    match liquid {
        Liquid::Diesel => (835.0, 0.70, 2.8, 1.15),
        Liquid::Petrol => (745.0, 0.85, 0.50, 0.32),
        Liquid::CalibrationFluid => (825.0, 0.68, 2.6, 1.10),
        Liquid::WhiteSpirit => (780.0, 0.75, 1.15, 0.60),
    }
}

fn double_log(viscosity: f64) -> f64 {
    libm::log10(libm::log10(viscosity + 0.7))
}

impl Fluid {
    /// As it should be.
    pub fn new(liquid: Liquid) -> Self {
        Self { liquid, thickness: 1.0 }
    }

    /// Thinned or thickened by what does not belong in it.
    pub fn of_thickness(self, thickness: f64) -> Self {
        Self { thickness, ..self }
    }

    /// kg/m³.
    pub fn density(&self, celsius: f64) -> f64 {
        let (at_15, fall, ..) = points(self.liquid);
        at_15 - fall * (celsius - 15.0)
    }

    /// Kinematic, mm²/s.
    pub fn viscosity_mm2_s(&self, celsius: f64) -> f64 {
        let (_, _, at_40, at_100) = points(self.liquid);
        let (cool, hot) = (libm::log10(313.15), libm::log10(373.15));
        let slope = (double_log(at_40) - double_log(at_100)) / (hot - cool);
        let value = double_log(at_40) - slope * (libm::log10(celsius + 273.15) - cool);
        (libm::pow(10.0, libm::pow(10.0, value)) - 0.7) * self.thickness
    }

    /// Dynamic, mPa·s.
    pub fn viscosity_mpas(&self, celsius: f64) -> f64 {
        self.viscosity_mm2_s(celsius) * self.density(celsius) / 1000.0
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn it_passes_through_its_points_and_thins_between_them() {
        let diesel = Fluid::new(Liquid::Diesel);
        assert!((diesel.viscosity_mm2_s(40.0) - 2.8).abs() < 1e-9);
        assert!((diesel.viscosity_mm2_s(100.0) - 1.15).abs() < 1e-9);
        // Between the points, by hand: log log 3.5 = -0.2644, log log 1.85 = -0.5732 over 0.0761 decades
        // of kelvin; at 70 °C -0.4242, which is 1.68 mm²/s.
        assert!((diesel.viscosity_mm2_s(70.0) - 1.68).abs() < 0.02);
        assert!((diesel.density(85.0) - 786.0).abs() < 1e-9);
    }
}
