//! Settings: one struct. Defaults, then a file, then the environment, then flags; what is said later
//! holds.

use crate::words;
use anyhow::Context;
use serde::{Deserialize, Serialize};
use std::net::{Ipv4Addr, SocketAddr};
use std::path::{Path, PathBuf};

/// The file as it is shipped, with everything in it.
pub(crate) const EXAMPLE: &str = include_str!("cobaltine.example.toml");
/// Read when it is in the current folder and no other is named.
const USUAL: &str = "cobaltine.toml";

/// What somebody said: in a file, in the environment or by flags.
#[derive(Debug, Clone, Default, PartialEq, Eq, clap::Args, Deserialize)]
#[serde(deny_unknown_fields, default)]
pub(crate) struct Said {
    /// Folder of the data; made when it is not there [default: cobaltine-data].
    #[arg(long, env = "COBALTINE_DATA")]
    data: Option<PathBuf>,
    /// Address to listen on; only this machine can reach the default [default: 127.0.0.1:8427].
    #[arg(long, env = "COBALTINE_LISTEN")]
    listen: Option<SocketAddr>,
    /// Nobody signs in: for one person on one machine, at an address of this machine alone.
    #[arg(long, env = "COBALTINE_OPEN", num_args = 0..=1, default_missing_value = "true")]
    open: Option<bool>,
    /// Certificate for TLS, with those above it (PEM); needed where other machines can reach it.
    #[arg(long, env = "COBALTINE_TLS_CERT", requires = "tls_key")]
    tls_cert: Option<PathBuf>,
    /// Key of the certificate (PEM).
    #[arg(long, env = "COBALTINE_TLS_KEY", requires = "tls_cert")]
    tls_key: Option<PathBuf>,
    /// A name of this machine to answer to, besides its addresses in numbers; may be given again.
    #[arg(long = "name", env = "COBALTINE_NAMES", value_delimiter = ',')]
    names: Option<Vec<String>>,
    /// Folder that backups go to; best on another disk [default: backups, in the folder of the data].
    #[arg(long, env = "COBALTINE_BACKUPS")]
    backups: Option<PathBuf>,
    /// Hours between two backups; 0 makes none by the clock [default: 24].
    #[arg(long, env = "COBALTINE_BACKUP_EVERY")]
    backup_every: Option<u32>,
    /// How many backups are kept [default: 14].
    #[arg(long, env = "COBALTINE_BACKUP_KEEP")]
    backup_keep: Option<usize>,
    /// Control unit that codes are written to, as HOST:PORT (docs/control-unit.md).
    #[arg(long, env = "COBALTINE_UNIT")]
    unit: Option<String>,
    /// Instruments may be at any address, not only on this machine and private networks.
    #[arg(long, env = "COBALTINE_ANY_ADDRESS", num_args = 0..=1, default_missing_value = "true")]
    any_address: Option<bool>,
    /// What is logged, such as `info` or `cobaltine_server=debug` [default: info].
    #[arg(long, env = "RUST_LOG")]
    log: Option<String>,
}

/// Where settings come from, besides the environment.
#[derive(Debug, clap::Args)]
pub(crate) struct Sources {
    /// File of settings; `cobaltine.toml` in the current folder where none is named.
    #[arg(long, env = "COBALTINE_CONFIG")]
    config: Option<PathBuf>,
    /// Print the settings that hold, as such a file, and do nothing else.
    #[arg(long)]
    pub print_config: bool,
    #[command(flatten)]
    said: Said,
}

/// The settings that hold.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
pub(crate) struct Settings {
    /// Folder of the data.
    pub data: PathBuf,
    /// Address to listen on.
    pub listen: SocketAddr,
    /// Nobody signs in.
    pub open: bool,
    /// Certificate for TLS.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub tls_cert: Option<PathBuf>,
    /// Its key.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub tls_key: Option<PathBuf>,
    /// Names of this machine that are answered.
    pub names: Vec<String>,
    /// Folder that backups go to.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub backups: Option<PathBuf>,
    /// Hours between two backups.
    pub backup_every: u32,
    /// How many backups are kept.
    pub backup_keep: usize,
    /// Control unit that codes are written to.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub unit: Option<String>,
    /// Instruments may be at any address.
    pub any_address: bool,
    /// What is logged.
    pub log: String,
}

impl Default for Settings {
    fn default() -> Self {
        Self {
            data: PathBuf::from("cobaltine-data"),
            listen: SocketAddr::from((Ipv4Addr::LOCALHOST, 8427)),
            open: false,
            tls_cert: None,
            tls_key: None,
            names: Vec::new(),
            backups: None,
            backup_every: 24,
            backup_keep: 14,
            unit: None,
            any_address: false,
            log: "info".to_owned(),
        }
    }
}

impl Settings {
    /// These, with what was said over them.
    fn with(self, said: Said) -> Self {
        let Said {
            data,
            listen,
            open,
            tls_cert,
            tls_key,
            names,
            backups,
            backup_every,
            backup_keep,
            unit,
            any_address,
            log,
        } = said;
        Self {
            data: data.unwrap_or(self.data),
            listen: listen.unwrap_or(self.listen),
            open: open.unwrap_or(self.open),
            tls_cert: tls_cert.or(self.tls_cert),
            tls_key: tls_key.or(self.tls_key),
            names: names.unwrap_or(self.names),
            backups: backups.or(self.backups),
            backup_every: backup_every.unwrap_or(self.backup_every),
            backup_keep: backup_keep.unwrap_or(self.backup_keep),
            unit: unit.or(self.unit),
            any_address: any_address.unwrap_or(self.any_address),
            log: log.unwrap_or(self.log),
        }
    }

    fn read(text: &str, name: &Path) -> anyhow::Result<Said> {
        toml::from_str(text).with_context(|| words::not_settings_file(name.display()))
    }

    /// As a file that says the same.
    pub(crate) fn printed(&self) -> anyhow::Result<String> {
        Ok(toml::to_string(self)?)
    }
}

impl Sources {
    /// Reads what was said everywhere.
    ///
    /// # Errors
    /// A file that is named and not there, or that is no file of settings.
    pub(crate) fn settings(&self) -> anyhow::Result<Settings> {
        let usual = Path::new(USUAL);
        let file = self.config.as_deref().or_else(|| usual.is_file().then_some(usual));
        let of_file = match file {
            Some(name) => {
                let text = std::fs::read_to_string(name)
                    .with_context(|| format!("{} cannot be read", name.display()))?;
                Settings::read(&text, name)?
            }
            None => Said::default(),
        };
        Ok(Settings::default().with(of_file).with(self.said.clone()))
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_example_names_every_setting_and_says_what_holds_without_it() -> anyhow::Result<()> {
        // Each setting stands in it behind a #, with its default or an example.
        let lines = EXAMPLE.lines().filter_map(|line| line.strip_prefix("#= "));
        let said = Settings::read(&lines.collect::<Vec<_>>().join("\n"), Path::new("example"))?;
        let Said {
            data,
            listen,
            open,
            tls_cert,
            tls_key,
            names,
            backups,
            backup_every,
            backup_keep,
            unit,
            any_address,
            log,
        } = said.clone();
        assert!(tls_cert.is_some() && tls_key.is_some());
        assert!(any_address.is_some());
        assert!(backups.is_some() && backup_every.is_some() && backup_keep.is_some());
        assert!(
            data.is_some()
                && listen.is_some()
                && open.is_some()
                && names.is_some()
                && log.is_some()
        );
        assert!(unit.is_some(), "an example, as there is none by itself");
        let held = Settings::default().with(Said {
            unit: None,
            backups: None,
            tls_cert: None,
            tls_key: None,
            ..said
        });
        assert_eq!(held, Settings::default());
        Ok(())
    }

    #[test]
    fn what_is_said_later_holds_and_what_is_printed_reads_back() -> anyhow::Result<()> {
        let file = Settings::read("listen = \"127.0.0.1:9000\"\nlog = \"debug\"", Path::new("x"))?;
        let flags = Said { log: Some("warn".to_owned()), ..Said::default() };
        let held = Settings::default().with(file).with(flags);
        assert_eq!((held.listen.port(), held.log.as_str()), (9000, "warn"));
        let again = Settings::read(&held.printed()?, Path::new("x"))?;
        assert_eq!(Settings::default().with(again), held);
        assert!(Settings::read("lisen = 1", Path::new("x")).is_err(), "a slip is not passed over");
        Ok(())
    }
}
