//! The scale: a connection that uses the line protocol of docs/formats.md, and what was added according to it.
//!
//! A lost connection is restored. A simulated scale also accepts commands: pour, lift, unplug.

use std::{
    io::ErrorKind,
    net::SocketAddr,
    sync::{Arc, Mutex, MutexGuard, PoisonError},
    time::Duration,
};

use tokio::{io::AsyncWriteExt, net::TcpStream, sync::mpsc};
use tokio_stream::StreamExt;
use tokio_util::codec::{FramedRead, LinesCodec, LinesCodecError};
use warm_blend_device::{Pan, ScaleLine, Weighing};

/// Greatest length of a line from a scale, bytes.
const LONGEST: usize = 120;
/// Start of the line in which a scale states its name.
const GREETING: &str = "scale ";
/// Silence after which a scale counts as disconnected.
const PATIENCE: Duration = Duration::from_secs(2);
/// Pause before reconnecting.
const AGAIN: Duration = Duration::from_millis(500);

/// The scale, shared by all requests.
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

/// Current state of the scale.
#[derive(Debug, Clone)]
pub struct ScaleStanding {
    /// Name of the scale; `None` before its first line.
    pub name: Option<String>,
    /// State of the pan.
    pub pan: Pan,
    /// Amount added since the last recorded addition, g.
    pub net: f64,
    /// Fault of its last line.
    pub trouble: Option<String>,
}

impl ScaleStanding {
    /// True if it is simulated.
    pub fn simulated(&self) -> bool {
        self.name.as_deref().is_some_and(|name| name.starts_with("simulated"))
    }
}

impl ScaleAtHand {
    fn now(&self) -> MutexGuard<'_, Now> {
        self.now.lock().unwrap_or_else(PoisonError::into_inner)
    }

    /// Current state.
    pub fn standing(&self) -> ScaleStanding {
        let now = self.now();
        ScaleStanding {
            name: now.name.clone(),
            pan: now.weighing.pan(),
            net: now.weighing.net(),
            trouble: now.trouble.clone(),
        }
    }

    /// Runs `work` on the weighing with exclusive access.
    pub fn weighing<R>(&self, work: impl FnOnce(&mut Weighing) -> R) -> R {
        work(&mut self.now().weighing)
    }

    /// Sends a command to a simulated scale; false if there is none.
    pub fn command(&self, command: String) -> bool {
        let simulated = self.standing().simulated();
        simulated && self.now().commands.as_ref().is_some_and(|commands| commands.send(command).is_ok())
    }

    /// Connects to the scale at an address and stays connected while the program runs.
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

    /// Listens until the connection ends; returns the reason if it is worth showing.
    async fn listen(&self, connection: TcpStream) -> Option<String> {
        let (reads, mut writes) = connection.into_split();
        let (commands, mut answer) = mpsc::unbounded_channel::<String>();
        self.now().commands = Some(commands);
        // A partial line is kept while a command is sent: half a line could be read as a smaller weight.
        let mut lines = FramedRead::new(reads, LinesCodec::new_with_max_length(LONGEST));
        let mut first = true;
        loop {
            let next = tokio::time::timeout(PATIENCE, lines.next());
            tokio::select! {
                Some(command) = answer.recv() => {
                    if writes.write_all(format!("{command}\n").as_bytes()).await.is_err() {
                        return None;
                    }
                }
                next = next => match next {
                    Ok(Some(Ok(line))) => {
                        // The first line may have started before the connection.
                        let line = line.trim();
                        if !first || line.starts_with(GREETING) {
                            self.hear(line);
                        }
                        first = false;
                    }
                    Ok(Some(Err(LinesCodecError::MaxLineLengthExceeded))) => {
                        return Some("the connected device is not a scale: no line ends".to_owned());
                    }
                    Ok(Some(Err(LinesCodecError::Io(error)))) if error.kind() == ErrorKind::InvalidData => {
                        return Some("the connected device is not a scale: it sends no text".to_owned());
                    }
                    Ok(Some(Err(_)) | None) | Err(_) => return None,
                },
            }
        }
    }

    fn hear(&self, line: &str) {
        let mut now = self.now();
        if let Some(name) = line.strip_prefix(GREETING) {
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

#[cfg(test)]
mod tests {
    use tokio::net::TcpListener;

    use super::*;

    async fn until(holds: impl Fn() -> bool) {
        for _ in 0..500 {
            if holds() {
                return;
            }
            tokio::time::sleep(Duration::from_millis(10)).await;
        }
        panic!("in vain");
    }

    /// A scale whose line is cut by a lost connection, which sends in pieces, and which is sent something meanwhile: no piece of
    /// a weight is taken for one.
    #[tokio::test]
    async fn half_a_line_is_no_weight() {
        let listener = TcpListener::bind("127.0.0.1:0").await.unwrap();
        let scale = ScaleAtHand::default();
        scale.connect(listener.local_addr().unwrap());
        let (mut plug, _) = listener.accept().await.unwrap();
        plug.write_all(b"scale simulated\n0.0 g steady\n212.5 g steady\n").await.unwrap();
        until(|| scale.standing().net == 212.5).await;
        plug.write_all(b"21").await.unwrap();
        assert!(scale.command("empty".to_owned()));
        tokio::time::sleep(Duration::from_millis(50)).await;
        plug.write_all(b"3.5 g steady\n").await.unwrap();
        until(|| scale.standing().net == 213.5).await;
        drop(plug);
        // It comes back in the middle of a line.
        let (mut plug, _) = listener.accept().await.unwrap();
        plug.write_all(b"3.5 g steady\n214.0 g steady\n").await.unwrap();
        until(|| scale.standing().pan == Pan::Steady).await;
        assert_eq!(scale.standing().net, 214.0);
        plug.write_all(&[b'7'; 4 * LONGEST]).await.unwrap();
        until(|| scale.standing().trouble.is_some_and(|why| why.contains("no line ends"))).await;
    }
}
