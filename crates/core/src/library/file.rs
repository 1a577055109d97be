//! The library as one open file.

use super::{LibraryFamily, LibraryItem, LimitEntry};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// Says what the file is.
pub const LIBRARY_FORMAT: &str = "cobaltine.library";
/// Version of the shape below.
pub const LIBRARY_VERSION: u32 = 1;

/// Families, limits, engines and test plans. The JSON Schema ships with the program.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct LibraryFile {
    /// Always `cobaltine.library`.
    pub format: String,
    /// Always 1.
    pub version: u32,
    /// Families.
    pub families: Vec<LibraryFamily>,
    /// The newest revision of every limit.
    pub limits: Vec<LimitEntry>,
    /// Engines and test plans.
    pub items: Vec<LibraryItem>,
}

impl LibraryFile {
    /// A file of this version.
    pub fn new(
        families: Vec<LibraryFamily>,
        limits: Vec<LimitEntry>,
        items: Vec<LibraryItem>,
    ) -> Self {
        Self {
            format: LIBRARY_FORMAT.to_owned(),
            version: LIBRARY_VERSION,
            families,
            limits,
            items,
        }
    }
}
