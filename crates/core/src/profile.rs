//! The workshop itself: what stands at the head of its reports, and how its money is written.

mod words;

use crate::limits::{FieldProblem, NAME, text_problem};
use crate::units::Units;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// Longest address, in characters: five lines of a letterhead.
const ADDRESS: usize = 300;
/// Longest currency: a code or a sign.
const CURRENCY: usize = 6;
/// Largest logo, in characters of its data address: a picture of about 150 KB.
const LOGO: usize = 200_000;
/// Pictures that a page shows without running anything.
const PICTURES: [&str; 3] =
    ["data:image/png;base64,", "data:image/jpeg;base64,", "data:image/webp;base64,"];

/// The head of every report.
///
/// ```
/// use cobaltine_core::profile::Profile;
/// let own = Profile { name: "Dyke Lane Injection".into(), ..Profile::default() };
/// assert!(own.problems().is_empty());
/// assert_eq!(Profile::default().problems()[0].field, "name");
/// ```
#[derive(Debug, Clone, Default, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Profile {
    /// Name of the workshop.
    pub name: String,
    /// Address and telephone, line by line.
    #[serde(default)]
    pub address: String,
    /// The units that everything is read in.
    #[serde(default)]
    pub units: Units,
    /// How money is marked, such as `EUR`; may be empty.
    #[serde(default)]
    pub currency: String,
    /// A small picture as a data address (PNG, JPEG or WebP); may be empty.
    #[serde(default)]
    pub logo: String,
}

impl Profile {
    /// What is wrong with it, field by field.
    pub fn problems(&self) -> Vec<FieldProblem> {
        let mut found: Vec<FieldProblem> =
            text_problem("name", &self.name, NAME).into_iter().collect();
        for (field, text, most) in
            [("address", &self.address, ADDRESS), ("currency", &self.currency, CURRENCY)]
        {
            if text.chars().count() > most {
                found.push(FieldProblem::new(field, words::maximum_characters(most)));
            }
        }
        let picture = PICTURES.iter().any(|start| self.logo.starts_with(start));
        let plain = |c: char| c.is_ascii_alphanumeric() || "+/=".contains(c);
        let body = self.logo.split_once(',').map_or("", |(_, body)| body);
        let shown = picture && body.chars().all(plain);
        if !self.logo.is_empty() && !shown {
            found.push(FieldProblem::new("logo", words::LOGO_KIND));
        } else if self.logo.len() > LOGO {
            found.push(FieldProblem::new("logo", words::LOGO_TOO_LARGE));
        }
        found
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_picture_is_a_picture_and_small() {
        let with = |logo: &str| Profile {
            name: "Dyke Lane".to_owned(),
            logo: logo.to_owned(),
            ..Profile::default()
        };
        assert!(with("data:image/png;base64,iVBORw0KGgo=").problems().is_empty());
        for bad in [
            "data:image/svg+xml;base64,PHN2Zz4=",
            "https://example.invalid/logo.png",
            "data:image/png;base64,\"><script>",
        ] {
            assert_eq!(with(bad).problems()[0].field, "logo", "{bad}");
        }
        let large = format!("data:image/png;base64,{}", "A".repeat(LOGO));
        assert_eq!(with(&large).problems()[0].message, words::LOGO_TOO_LARGE);
    }
}
