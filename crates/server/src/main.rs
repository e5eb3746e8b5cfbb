//! `warm-blend`: a furniture painter's workspace, served to a browser on the same machine.

mod keeping;

use std::error::Error;
use std::path::PathBuf;
use std::process::ExitCode;
use std::time::Duration;

use clap::{Parser, Subcommand};
use tokio::runtime::Runtime;
use warm_blend_server::{Demo, Stop, Workspace, offer_demo, serve, serve_network, simulated_scale};
use warm_blend_store::Stays;

/// Many threads draw large pictures; this allocator returns their memory.
#[global_allocator]
static MEMORY: mimalloc::MiMalloc = mimalloc::MiMalloc;

/// Default port of the demo.
const DEMO_PORT: u16 = 7879;

/// Predicts the colour of paint mixes, glazes and washes, and keeps the record of them.
#[derive(Parser)]
#[command(version, arg_required_else_help = true)]
struct Cli {
    #[command(subcommand)]
    command: Command,
}

#[derive(Subcommand)]
enum Command {
    /// Serve a workspace file, which is created if it does not exist.
    Serve {
        /// The workspace file (else workspace.db in your data directory).
        #[arg(long, value_name = "FILE")]
        data: Option<PathBuf>,
        /// Port on 127.0.0.1; 0 means any free one.
        #[arg(long, default_value_t = 7878)]
        port: u16,
        /// Open the workspace in the browser.
        #[arg(long)]
        open: bool,
        /// The scale under the pot: an address such as 127.0.0.1:7900 of a scale with the line protocol of
        /// docs/formats.md, or `simulated`.
        #[arg(long, value_name = "ADDRESS")]
        scale: Option<String>,
    },
    /// Serve a fresh demo workspace in a temporary file, which is deleted at the end.
    Demo {
        /// Port on 127.0.0.1; by default 7879, or any free one if that is taken.
        #[arg(long)]
        port: Option<u16>,
        /// Open the demo in the browser.
        #[arg(long)]
        open: bool,
    },
    /// Act as a simulated scale for another warm-blend. Ends when its input does.
    Scale {
        /// Port on 127.0.0.1; 0 means any free one.
        #[arg(long, default_value_t = 7900)]
        port: u16,
    },
    /// Make a backup of a workspace file, which may be in use.
    Backup {
        /// The workspace file (else workspace.db in your data directory).
        #[arg(long, value_name = "FILE")]
        data: Option<PathBuf>,
        /// The folder for it (else the one that was chosen on the page).
        #[arg(long, value_name = "FOLDER")]
        to: Option<PathBuf>,
    },
    /// Put a backup in the place of a workspace file, which is set aside.
    Restore {
        /// The backup.
        backup: PathBuf,
        /// The workspace file (else workspace.db in your data directory).
        #[arg(long, value_name = "FILE")]
        data: Option<PathBuf>,
    },
    /// Write everything to one open file: a zip with JSON, photos, and tables for other programs.
    Export {
        /// The archive, a new file.
        archive: PathBuf,
        /// The workspace file (else workspace.db in your data directory).
        #[arg(long, value_name = "FILE")]
        data: Option<PathBuf>,
    },
    /// Import an archive into a workspace file, which is created if it does not exist.
    Import {
        /// The archive.
        archive: PathBuf,
        /// The workspace file (else workspace.db in your data directory).
        #[arg(long, value_name = "FILE")]
        data: Option<PathBuf>,
        /// Which version stays where both have changed something.
        #[arg(long, value_enum, default_value_t = Version::Newer)]
        keep: Version,
        /// Only say what it would bring.
        #[arg(long)]
        look: bool,
    },
    /// Check that a workspace file or a backup is whole. It is not changed.
    Check {
        /// The file.
        file: PathBuf,
    },
    /// Save what can still be read of a damaged workspace file to a new file. The damaged file is not changed.
    Rescue {
        /// The damaged file.
        file: PathBuf,
        /// The new file; by default FILE with `.rescued.db` appended.
        #[arg(long, value_name = "FILE")]
        to: Option<PathBuf>,
    },
    /// Print the description of the HTTP interface (OpenAPI, JSON).
    Openapi,
}

/// A version of an entry that was changed in two workspaces.
#[derive(Clone, Copy, clap::ValueEnum)]
enum Version {
    /// The one that was changed last.
    Newer,
    /// That of the workspace file.
    Mine,
    /// That of the archive.
    Theirs,
}

impl From<Version> for Stays {
    fn from(version: Version) -> Self {
        match version {
            Version::Newer => Self::Newer,
            Version::Mine => Self::Mine,
            Version::Theirs => Self::Theirs,
        }
    }
}

/// Time to wait at the end for drawing and learning; whatever was acknowledged is on disk.
const AT_THE_END: Duration = Duration::from_millis(300);

fn main() -> ExitCode {
    let command = Cli::parse().command;
    let done = Runtime::new().map_err(Into::into).and_then(|runtime| {
        let done = runtime.block_on(run(command));
        runtime.shutdown_timeout(AT_THE_END);
        done
    });
    match done {
        Ok(()) => ExitCode::SUCCESS,
        Err(error) => {
            eprintln!("warm-blend: {error}");
            ExitCode::FAILURE
        }
    }
}

async fn run(command: Command) -> Result<(), Box<dyn Error + Send + Sync>> {
    match command {
        Command::Serve { data, port, open, scale } => {
            let stop = Stop::listen();
            let file = file_or_default(data)?;
            let mut workspace = Workspace::open(&file)?;
            let simulated_scale = match scale.as_deref() {
                Some("simulated") => Some(simulated_scale::Process::start().await?),
                _ => None,
            };
            match (&simulated_scale, scale) {
                (Some(simulated_scale), _) => workspace.connect_scale(simulated_scale.address),
                (None, Some(address)) => workspace.connect_scale(address.parse().map_err(|_| {
                    format!("“{address}” is not a scale address; use one such as 127.0.0.1:7900")
                })?),
                (None, None) => {}
            }
            for notice in workspace.notices() {
                eprintln!("warm-blend: {}: {notice}", file.display());
            }
            workspace.make_ready();
            workspace.look_deep();
            workspace.tidy_when_idle();
            workspace.back_up_when_due();
            let served = serve(offer_demo(workspace.clone()), port).await?;
            serve_network(&workspace).await;
            announce(&served.url(), &format!("workspace {}", file.display()), open);
            served.until(stop).await;
            // Drawing and learning may keep the file open until the end, so everything is written back first.
            workspace.write_back()?;
        }
        Command::Demo { port, open } => {
            // Before there is a file to delete.
            let stop = Stop::listen();
            let usual = [DEMO_PORT, 0];
            let demo = Demo::start(port.as_ref().map_or(&usual[..], std::slice::from_ref)).await?;
            announce(&demo.served.url(), "demo workspace, deleted when you stop it", open);
            demo.until(stop).await;
        }
        Command::Scale { port } => {
            println!("Simulated scale at {}", simulated_scale::run(port).await?);
            until_the_input_ends().await;
        }
        Command::Backup { data, to } => {
            println!("{}", keeping::back_up(&file_or_default(data)?, to.as_deref())?)
        }
        Command::Restore { backup, data } => {
            println!("{}", keeping::restore(&backup, &file_or_default(data)?)?);
        }
        Command::Export { archive, data } => {
            println!("{}", keeping::export(&file_or_default(data)?, archive).await?);
        }
        Command::Import { archive, data, keep, look } => {
            println!("{}", keeping::import(&archive, &file_or_default(data)?, keep.into(), look).await?);
        }
        Command::Check { file } => println!("{}", keeping::check(&file)?),
        Command::Rescue { file, to } => {
            let to = to.unwrap_or_else(|| {
                let mut name = file.clone().into_os_string();
                name.push(".rescued.db");
                name.into()
            });
            println!("{}", keeping::rescue(&file, &to)?);
        }
        Command::Openapi => println!("{}", warm_blend_server::openapi().to_pretty_json()?),
    }
    Ok(())
}

/// The parent process holds the input open for as long as the scale is wanted.
async fn until_the_input_ends() {
    let mut ignored = [0; 64];
    let mut input = tokio::io::stdin();
    while let Ok(1..) = tokio::io::AsyncReadExt::read(&mut input, &mut ignored).await {}
}

fn file_or_default(data: Option<PathBuf>) -> Result<PathBuf, Box<dyn Error + Send + Sync>> {
    data.map_or_else(default_file, Ok)
}

fn default_file() -> Result<PathBuf, Box<dyn Error + Send + Sync>> {
    let folders = directories::ProjectDirs::from("", "", "warm-blend")
        .ok_or("can’t find your home directory; give a file with --data FILE")?;
    let folder = folders.data_dir();
    std::fs::create_dir_all(folder)
        .map_err(|error| format!("can’t create the folder {}: {error}", folder.display()))?;
    Ok(folder.join("workspace.db"))
}

fn announce(url: &str, what: &str, open_it: bool) {
    println!("Warm Blend is at {url}  ({what}; Ctrl-C to stop)");
    if open_it && let Err(error) = open::that_detached(url) {
        eprintln!("warm-blend: can’t open a browser ({error}); open {url} yourself");
    }
}
