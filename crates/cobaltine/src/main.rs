//! The program: `serve`, `demo`, `calc`, `import`, `export`, and the documents that ship with it.

mod calc;
mod demo;
mod generate;
mod serving;

use anyhow::Context;
use clap::{Parser, Subcommand};
use cobaltine_core::record::JobFile;
use cobaltine_store::{Imported, Store};
use std::net::SocketAddr;
use std::path::{Path, PathBuf};

#[derive(Debug, Parser)]
#[command(version, about = "Injector work: from the complaint to the proof.")]
struct Cli {
    #[command(subcommand)]
    command: Command,
}

/// Where the data is and where to listen.
#[derive(Debug, clap::Args)]
struct Settings {
    /// Folder of the data; made when it is not there.
    #[arg(long, env = "COBALTINE_DATA", default_value = "cobaltine-data")]
    data: PathBuf,
    /// Address to listen on. Only this machine can reach the default.
    #[arg(long, env = "COBALTINE_LISTEN", default_value = "127.0.0.1:8427")]
    listen: SocketAddr,
    /// A name of this machine to answer to, besides its addresses in numbers; may be given again.
    #[arg(long = "name", env = "COBALTINE_NAMES", value_delimiter = ',')]
    names: Vec<String>,
}

#[derive(Debug, Subcommand)]
enum Command {
    /// Serve a workshop.
    Serve(Settings),
    /// Load the made-up workshop into the data folder, then serve it.
    Demo {
        #[command(flatten)]
        settings: Settings,
        /// Add this many generated jobs, to see how a large workshop behaves.
        #[arg(long, default_value_t = 0)]
        jobs: u32,
        /// Add this many generated limits to the library.
        #[arg(long, default_value_t = 0)]
        limits: u32,
    },
    /// Read computations from standard input, a JSON object a line, and answer a line each.
    Calc,
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
    /// Print the OpenAPI document.
    Openapi,
    /// Print the JSON Schema of the job file.
    Schema,
    /// Print the JSON Schema of the library file.
    LibrarySchema,
}

#[tokio::main]
async fn main() -> anyhow::Result<()> {
    match Cli::parse().command {
        Command::Serve(settings) => {
            serving::serve(open(&settings.data).await?, settings.listen, settings.names).await
        }
        Command::Demo { settings, jobs, limits } => {
            let store = open(&settings.data).await?;
            demo::load(&store).await?;
            generate::fill(&store, jobs).await?;
            generate::library(&store, limits).await?;
            serving::serve(store, settings.listen, settings.names).await
        }
        Command::Calc => calc::answer(std::io::stdin().lock(), std::io::stdout().lock()),
        Command::Import { data, file } => import(&open(&data).await?, &file).await,
        Command::Export { data, job } => {
            let file = open(&data).await?.job(job).await?;
            println!("{}", serde_json::to_string_pretty(&file)?);
            Ok(())
        }
        Command::Openapi => print(&cobaltine_server::openapi_json()),
        Command::Schema => print(&cobaltine_server::job_schema()),
        Command::LibrarySchema => print(&cobaltine_server::library_schema()),
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
    let file: JobFile = serde_json::from_str(&text)
        .with_context(|| format!("{} is not a job file", path.display()))?;
    match store.import_job(&file).await {
        Ok(Imported::New(id)) => println!("imported {id}"),
        Ok(Imported::AlreadyHere(id)) => println!("{id} was here already, nothing to do"),
        Err(cobaltine_store::StoreError::Invalid(problems)) => {
            for problem in &problems {
                eprintln!("{}: {}", problem.field, problem.message);
            }
            anyhow::bail!("nothing was imported");
        }
        Err(error) => return Err(error.into()),
    }
    Ok(())
}
