//! One program per data folder.

use crate::StoreError;
use std::fs::{File, OpenOptions, TryLockError};
use std::path::Path;

/// The lock file, locked; the operating system lets go when the program ends, however it ends.
#[derive(Debug)]
pub(crate) struct FolderLock {
    _file: File,
}

impl FolderLock {
    pub(crate) fn take(folder: &Path) -> Result<Self, StoreError> {
        let path = folder.join("cobaltine.lock");
        let file = OpenOptions::new().create(true).truncate(false).write(true).open(path)?;
        match file.try_lock() {
            Ok(()) => Ok(Self { _file: file }),
            Err(TryLockError::WouldBlock) => Err(StoreError::InUse(folder.to_path_buf())),
            Err(TryLockError::Error(error)) => Err(error.into()),
        }
    }
}
