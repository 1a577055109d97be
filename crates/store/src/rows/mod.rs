//! Rows in and out of the database: columns, then one file per table family. Commands,
//! the whole job and the board stand above this; nothing here knows them.

pub(crate) mod bench;
pub(crate) mod columns;
pub(crate) mod decisions;
pub(crate) mod events;
pub(crate) mod jobs;
pub(crate) mod return_tests;
pub(crate) mod sheets;
