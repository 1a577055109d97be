//! The real interface in headless Chromium: a program on a free port with a fresh data
//! folder, ChromeDriver, and the few words that the stories are told with.

mod browser;
mod cutter;
mod program;

pub use browser::Browser;
pub use cutter::Cutter;
pub use program::{Program, binary};
