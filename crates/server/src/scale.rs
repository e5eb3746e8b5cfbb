//! The scale at hand: a connection to something that speaks the line protocol of docs/formats.md, and what has gone in by it.
//!
//! The connection is made again whenever it is lost. A stand-in obeys commands as well: pouring, lifting, unplugging.

use std::net::SocketAddr;
use std::sync::{Arc, Mutex, MutexGuard, PoisonError};
use std::time::Duration;

use tokio::io::{AsyncBufReadExt, AsyncReadExt, AsyncWriteExt, BufReader};
use tokio::net::TcpStream;
use tokio::net::tcp::OwnedReadHalf;
use tokio::sync::mpsc;
use warm_blend_finish::device::{Pan, ScaleLine, Weighing};

/// Longest line of a scale, bytes.
const LONGEST: u64 = 120;
/// How long a scale may say nothing before it counts as gone.
const PATIENCE: Duration = Duration::from_secs(2);
/// How long to wait before it is tried again.
const AGAIN: Duration = Duration::from_millis(500);

/// A scale that requests take turns with.
#[derive(Debug, Clone, Default)]
pub struct ScaleAtHand {
    now: Arc<Mutex<Now>>,
}

#[derive(Debug, Default)]
struct Now {
    name: Option<String>,
    weighing: Weighing,
    trouble: Option<String>,
    commands: Option<mpsc::UnboundedSender<String>>,
}

/// How it stands.
#[derive(Debug, Clone)]
pub struct Standing {
    /// What it calls itself; none where no scale was ever heard.
    pub name: Option<String>,
    /// How the pan is.
    pub pan: Pan,
    /// What has gone in since the last addition, g.
    pub net: f64,
    /// What was wrong with its last line.
    pub trouble: Option<String>,
}

impl Standing {
    /// True of a stand-in.
    pub fn simulated(&self) -> bool {
        self.name.as_deref().is_some_and(|name| name.starts_with("simulated"))
    }
}

impl ScaleAtHand {
    fn now(&self) -> MutexGuard<'_, Now> {
        self.now.lock().unwrap_or_else(PoisonError::into_inner)
    }

    /// How it stands.
    pub fn standing(&self) -> Standing {
        let now = self.now();
        Standing {
            name: now.name.clone(),
            pan: now.weighing.pan(),
            net: now.weighing.net(),
            trouble: now.trouble.clone(),
        }
    }

    /// Lets `work` do something with what was weighed, undisturbed.
    pub fn weighing<R>(&self, work: impl FnOnce(&mut Weighing) -> R) -> R {
        work(&mut self.now().weighing)
    }

    /// Tells a stand-in what happens to it; false where there is none to be told.
    pub fn command(&self, command: String) -> bool {
        let simulated = self.standing().simulated();
        simulated && self.now().commands.as_ref().is_some_and(|commands| commands.send(command).is_ok())
    }

    /// Stays connected to the scale at an address, for as long as the program runs.
    pub fn connect(&self, address: SocketAddr) {
        let scale = self.clone();
        tokio::spawn(async move {
            loop {
                if let Ok(connection) = TcpStream::connect(address).await {
                    let trouble = scale.listen(connection).await;
                    let mut now = scale.now();
                    now.trouble = trouble;
                    now.commands = None;
                }
                scale.now().weighing.lose();
                tokio::time::sleep(AGAIN).await;
            }
        });
    }

    /// Listens until the connection ends; says why where it is worth saying.
    async fn listen(&self, connection: TcpStream) -> Option<String> {
        let (reads, mut writes) = connection.into_split();
        let (commands, mut told) = mpsc::unbounded_channel::<String>();
        self.now().commands = Some(commands);
        let mut lines = BufReader::new(reads);
        loop {
            let next = tokio::time::timeout(PATIENCE, line(&mut lines));
            tokio::select! {
                Some(command) = told.recv() => {
                    if writes.write_all(format!("{command}\n").as_bytes()).await.is_err() {
                        return None;
                    }
                }
                next = next => match next {
                    Ok(Ok(Some(line))) => self.hear(&line),
                    Ok(Ok(None)) | Err(_) => return None,
                    Ok(Err(why)) => return Some(why),
                },
            }
        }
    }

    fn hear(&self, line: &str) {
        let mut now = self.now();
        if let Some(name) = line.strip_prefix("scale ") {
            now.name = Some(name.chars().filter(|c| !c.is_control()).take(60).collect());
            return;
        }
        match line.parse::<ScaleLine>() {
            Ok(line) => {
                now.name.get_or_insert_with(|| "scale".to_owned());
                now.trouble = None;
                now.weighing.hear(line);
            }
            Err(error) => now.trouble = Some(error.to_string()),
        }
    }
}

/// The next line; None at the end. Cancelling it loses nothing but the line at hand, and ten come a second.
async fn line(lines: &mut BufReader<OwnedReadHalf>) -> Result<Option<String>, String> {
    let mut bytes = Vec::new();
    let read = lines.take(LONGEST).read_until(b'\n', &mut bytes).await;
    match read {
        Ok(0) | Err(_) => Ok(None),
        Ok(_) if !bytes.ends_with(b"\n") => {
            Err("what is connected is no scale: its lines do not end".to_owned())
        }
        Ok(_) => Ok(Some(String::from_utf8_lossy(&bytes).trim().to_owned())),
    }
}
