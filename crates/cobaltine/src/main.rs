//! The program: `serve`, `demo`, `calc`, `import`, `export`, and the documents that ship with it.

mod calc;
mod care;
mod demo;
mod generate;
mod made;
mod memory;
mod recordings;
mod score;
mod serving;
mod settings;
mod words;
mod world;

use anyhow::Context;
use clap::{Parser, Subcommand};
use cobaltine_core::record::{JobFile, Signed};
use cobaltine_store::{Act, Imported, Store, StoreError, TakenBy, Watch};
use jiff::Timestamp;
use serving::Unit;
use settings::Sources;
use std::io::Write;
use std::net::{IpAddr, SocketAddr};
use std::path::{Path, PathBuf};
use std::sync::Arc;
use std::sync::atomic::{AtomicBool, Ordering};

/// Gathered by `cargo xtask licences`, compared in lint.
const LICENCES: &str = include_str!("../licences.txt");

#[derive(Debug, Parser)]
#[command(version, about = "Fuel injector work, from complaint to proof.")]
struct Cli {
    #[command(subcommand)]
    command: Command,
}

#[derive(Debug, Subcommand)]
enum Command {
    /// Serve a workshop.
    Serve(Sources),
    /// Load the demo workshop into the data folder, then serve it.
    Demo {
        #[command(flatten)]
        sources: Sources,
        /// Add this many generated jobs, to see how a large workshop behaves.
        #[arg(long, default_value_t = 0)]
        jobs: u32,
        /// Add this many generated limits to the library.
        #[arg(long, default_value_t = 0)]
        limits: u32,
    },
    /// Run a simulated ECU that stores trim codes, takes its time and fails as real ones do.
    Unit {
        /// Address to listen on.
        #[arg(long, default_value = "127.0.0.1:8428")]
        listen: SocketAddr,
    },
    /// Read computations from standard input, a JSON object a line, and answer a line each.
    Calc,
    /// Judge made-up engines with known faults, and say how well each technician does.
    Score(score::Asked),
    /// Put the results of several score runs together.
    ScoreMerge {
        /// Folder of the result.
        #[arg(long, default_value = "score")]
        out: PathBuf,
        /// Folders of the runs.
        folders: Vec<PathBuf>,
    },
    /// Serve a simulated instrument at a made-up engine (docs/instruments.md).
    Instrument {
        /// What it is: bottles, gauge, meter, petrol_bench, diesel_bench, doser_bench, clamp,
        /// microphone or scan.
        kind: String,
        /// Where it listens.
        #[arg(long, default_value = "127.0.0.1:0")]
        listen: SocketAddr,
        #[command(flatten)]
        made: made::Made,
    },
    /// Serve a whole made-up workshop of simulated instruments, and a control unit (docs/instruments.md).
    BenchWorld {
        /// The same one makes the same workshop on any machine.
        #[arg(long, default_value_t = 1)]
        seed: u64,
        /// Those at the engine of a written case of the trainer alone, by its name.
        #[arg(long)]
        case: Option<String>,
        /// Address of this machine where they listen.
        #[arg(long, default_value = "127.0.0.1")]
        listen: IpAddr,
        /// Port of the first; each of the others takes the next. 0 takes any that are free.
        #[arg(long, default_value_t = 5025)]
        port: u16,
    },
    /// Write recordings of a made-up engine: a sound and a current for each injector, and the starter.
    Recordings(recordings::Asked),
    /// Import a job file; all of it or nothing.
    Import {
        /// Folder of the data.
        #[arg(long)]
        data: PathBuf,
        /// Job file (JSON).
        file: PathBuf,
    },
    /// Write a job file to standard output.
    Export {
        /// Folder of the data.
        #[arg(long)]
        data: PathBuf,
        /// Id of the job.
        job: uuid::Uuid,
    },
    /// Write the whole workshop to standard output, a JSON object a line (docs/workshop-file.md).
    ExportWorkshop {
        /// Folder of the data.
        #[arg(long)]
        data: PathBuf,
    },
    /// Import a workshop file; all of it or nothing. What is here already stays as it is.
    ImportWorkshop {
        /// Folder of the data.
        #[arg(long)]
        data: PathBuf,
        /// Id of the person of the file or of this workshop who signs for it.
        #[arg(long)]
        by: uuid::Uuid,
        /// Workshop file.
        file: PathBuf,
    },
    /// Print a link by which an owner who lost every other way in chooses a new password.
    OwnerLink {
        /// Folder of the data.
        #[arg(long)]
        data: PathBuf,
    },
    /// Make a certificate and a key for TLS, signed by themselves, in the current folder.
    Certificate {
        /// Names and addresses by which the machine is reached.
        #[arg(required = true)]
        names: Vec<String>,
    },
    /// Make a backup, also while a program serves the folder.
    Backup {
        /// Folder of the data.
        #[arg(long)]
        data: PathBuf,
        /// Folder of the backups; best on another disk.
        #[arg(long)]
        to: PathBuf,
        /// How many backups are kept there.
        #[arg(long, default_value_t = 14)]
        keep: usize,
    },
    /// Restore a backup into an empty folder, after checking all of it.
    Restore {
        /// The backup: a folder with a manifest in it.
        #[arg(long)]
        backup: PathBuf,
        /// Folder of the data; empty, or not there.
        #[arg(long)]
        data: PathBuf,
    },
    /// Check a folder: pages, references, the log, and what is made from it, made anew in a copy. Reads
    /// only, also while a program serves the folder.
    Check {
        /// Folder of the data.
        #[arg(long)]
        data: PathBuf,
        /// Folder for the copy; that of the system where none is named.
        #[arg(long)]
        scratch: Option<PathBuf>,
    },
    /// Print what a helper would ask: versions, room, clock, instruments due, last backup, last check.
    Doctor {
        /// Folder of the data.
        #[arg(long)]
        data: PathBuf,
        /// Folder of the backups; `backups` in the folder of the data where none is named.
        #[arg(long)]
        backups: Option<PathBuf>,
    },
    /// Print a file of settings with everything in it, to begin one with.
    SettingsExample,
    /// Print the licences of everything that ships in this program.
    Licences,
    /// Print the OpenAPI document.
    Openapi,
    /// Print the word lists that the front end is built with.
    Labels,
    /// Print the JSON Schema of the job file.
    Schema,
    /// Print the JSON Schema of the library file.
    LibrarySchema,
    /// Print the JSON Schema of a line of the workshop file.
    WorkshopSchema,
}

/// Threads for what takes long: judging, hashing, files.
const BESIDE: usize = 16;

fn main() -> anyhow::Result<()> {
    memory::give_back();
    let mut runtime = tokio::runtime::Builder::new_multi_thread();
    runtime.enable_all().max_blocking_threads(BESIDE).build()?.block_on(run())
}

async fn run() -> anyhow::Result<()> {
    match Cli::parse().command {
        Command::Serve(sources) => {
            let settings = sources.settings()?;
            if sources.print_config {
                print!("{}", settings.printed()?);
                return Ok(());
            }
            let unit = settings.unit.clone().map_or(Unit::None, Unit::At);
            serving::allowed(&settings)?;
            let store = open(&settings.data).await?;
            let data = settings.data.clone();
            serving::serve(store, settings, unit, Some(data)).await
        }
        Command::Demo { sources, jobs, limits } => {
            let mut settings = sources.settings()?;
            // A made-up workshop has nobody to sign in.
            settings.open = true;
            if sources.print_config {
                print!("{}", settings.printed()?);
                return Ok(());
            }
            serving::allowed(&settings)?;
            let store = open(&settings.data).await?;
            demo::load(&store).await?;
            generate::fill(&store, jobs).await?;
            generate::library(&store, limits).await?;
            let unit = settings.unit.clone().map_or(Unit::StandIn, Unit::At);
            serving::serve(store, settings, unit, None).await
        }
        Command::Unit { listen } => serving::unit(listen).await,
        Command::Calc => calc::answer(std::io::stdin().lock(), std::io::stdout().lock()),
        Command::Score(asked) => {
            let stop = Arc::new(AtomicBool::new(false));
            let told = Arc::clone(&stop);
            tokio::spawn(async move {
                if tokio::signal::ctrl_c().await.is_ok() {
                    told.store(true, Ordering::Relaxed);
                }
            });
            tokio::task::spawn_blocking(move || score::run(&asked, &stop)).await?
        }
        Command::Instrument { kind, listen, made } => {
            serving::instrument(&kind, listen, &made).await
        }
        Command::BenchWorld { seed, case, listen, port } => {
            world::serve(seed, case, listen, port).await
        }
        Command::Recordings(asked) => recordings::write(&asked),
        Command::ScoreMerge { out, folders } => score::merge(&folders, &out),
        Command::Import { data, file } => {
            let store = open(&data).await?;
            let done = import(&store, &file).await;
            store.close().await;
            done
        }
        Command::Export { data, job } => {
            let store = open(&data).await?;
            let file = store.job(job).await;
            store.close().await;
            println!("{}", serde_json::to_string_pretty(&file?)?);
            Ok(())
        }
        Command::Certificate { names } => care::certificate(names),
        Command::Backup { data, to, keep } => care::backup(&data, &to, keep).await,
        Command::Restore { backup, data } => care::restore(&backup, &data).await,
        Command::Check { data, scratch } => care::check(&data, scratch.as_deref()).await,
        Command::Doctor { data, backups } => care::doctor(&data, backups.as_deref()).await,
        Command::OwnerLink { data } => {
            let store = open(&data).await?;
            let token = store.owner_link(Timestamp::now()).await;
            store.close().await;
            println!("{}", words::owner_link(token?));
            Ok(())
        }
        Command::SettingsExample => {
            print!("{}", settings::EXAMPLE);
            Ok(())
        }
        Command::Licences => {
            print!("{LICENCES}");
            Ok(())
        }
        Command::Openapi => print(&cobaltine_server::openapi_json()),
        Command::Labels => {
            print!("{}", cobaltine_core::labels::as_json());
            Ok(())
        }
        Command::Schema => print(&cobaltine_server::job_schema()),
        Command::LibrarySchema => print(&cobaltine_server::library_schema()),
        Command::WorkshopSchema => print(&cobaltine_server::workshop_schema()),
        Command::ExportWorkshop { data } => {
            let store = open(&data).await?;
            let mut export = store.export_workshop().await?;
            let mut out = std::io::stdout().lock();
            while let Some(line) = export.next().await? {
                out.write_all(line.as_bytes())?;
            }
            drop(export);
            store.close().await;
            Ok(())
        }
        Command::ImportWorkshop { data, by, file } => {
            let signed = Signed::new(by, Timestamp::now());
            let store = open(&data).await?;
            let act = Act::own();
            std::fs::copy(&file, store.staged(act.id)?)
                .with_context(|| format!("{} cannot be read", file.display()))?;
            let done = store.import_workshop(&act, signed, &Watch::default()).await;
            store.close().await;
            let done = refused(done)?.unwrap_or_default();
            println!(
                "{}",
                words::lines_new_jobs_already(done.lines, done.new_jobs, done.same_jobs)
            );
            Ok(())
        }
    }
}

async fn open(data: &Path) -> anyhow::Result<Store> {
    Ok(Store::open(data).await?)
}

fn print(document: &serde_json::Value) -> anyhow::Result<()> {
    println!("{}", serde_json::to_string_pretty(document)?);
    Ok(())
}

async fn import(store: &Store, path: &Path) -> anyhow::Result<()> {
    let text = std::fs::read_to_string(path)
        .with_context(|| format!("{} cannot be read", path.display()))?;
    let file: JobFile =
        serde_json::from_str(&text).with_context(|| words::not_job_file(path.display()))?;
    let taken = TakenBy { by: None, at: Timestamp::now() };
    match refused(store.import_job(&Act::own(), &file, taken).await)? {
        Imported::New(id) => println!("imported {id}"),
        Imported::AlreadyHere(id) => println!("{}", words::already_here_nothing(id)),
    }
    Ok(())
}

/// Tells what is wrong where with a file that was refused.
fn refused<T>(told: Result<T, StoreError>) -> anyhow::Result<T> {
    if let Err(StoreError::Invalid(problems)) = &told {
        for problem in problems {
            eprintln!("{}: {}", problem.field, problem.message);
        }
        anyhow::bail!("nothing was imported");
    }
    Ok(told?)
}
