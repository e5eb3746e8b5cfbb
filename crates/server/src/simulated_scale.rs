//! A simulated scale: a process that speaks the line protocol of docs/formats.md on a port of this machine.

use std::{
    io,
    net::{Ipv4Addr, SocketAddr},
    process::Stdio,
    sync::{Arc, Mutex, PoisonError},
    time::Duration,
};

use tokio::{
    io::{AsyncBufReadExt, AsyncReadExt, AsyncWriteExt, BufReader},
    net::{TcpListener, TcpStream},
    process::{Child, Command},
    sync::watch,
};
use warm_blend_device::ScaleLine;
use warm_blend_sim::SimulatedScale;

/// Interval between two lines.
const TICK: Duration = Duration::from_millis(100);
/// How long it stays away when unplugged.
const UNPLUGGED: Duration = Duration::from_secs(3);
/// Its name.
const GREETING: &str = "scale simulated scale";

/// Runs a simulated scale on a port of this machine (0: any free one) while the runtime exists; returns its address.
pub async fn run(port: u16) -> io::Result<SocketAddr> {
    let listener = TcpListener::bind((Ipv4Addr::LOCALHOST, port)).await?;
    let address = listener.local_addr()?;
    let scale = Arc::new(Mutex::new(SimulatedScale::new(0x5ca1e)));
    let (says, heard) = watch::channel(ScaleLine { grams: 0.0, steady: true });
    let says = Arc::new(says);
    let (ticking, shown) = (Arc::clone(&scale), Arc::clone(&says));
    tokio::spawn(async move {
        let mut tick = tokio::time::interval(TICK);
        loop {
            tick.tick().await;
            shown.send_replace(lock(&ticking).after(TICK.as_secs_f64()));
        }
    });
    tokio::spawn(async move {
        loop {
            let Ok((connection, _)) = listener.accept().await else { continue };
            // One listener at a time, as on a serial line.
            if let Err(Unplugged) = attend(connection, &scale, heard.clone()).await {
                tokio::time::sleep(UNPLUGGED).await;
                // After it is switched on it shows zero, whatever is on it.
                let mut scale = lock(&scale);
                scale.tare();
                // The next listener gets the current state at once, not an earlier one.
                says.send_replace(scale.after(0.0));
            }
        }
    });
    Ok(address)
}

/// The scale was unplugged.
struct Unplugged;

fn lock(scale: &Mutex<SimulatedScale>) -> std::sync::MutexGuard<'_, SimulatedScale> {
    scale.lock().unwrap_or_else(PoisonError::into_inner)
}

async fn attend(
    connection: TcpStream,
    scale: &Mutex<SimulatedScale>,
    mut heard: watch::Receiver<ScaleLine>,
) -> Result<(), Unplugged> {
    let (reads, mut writes) = connection.into_split();
    let mut commands = BufReader::new(reads).take(1 << 20).lines();
    if writes.write_all(format!("{GREETING}\n").as_bytes()).await.is_err() {
        return Ok(());
    }
    loop {
        tokio::select! {
            changed = heard.changed() => {
                let line = *heard.borrow_and_update();
                if changed.is_err() || writes.write_all(format!("{line}\n").as_bytes()).await.is_err() {
                    return Ok(());
                }
            }
            command = commands.next_line() => match command {
                Ok(Some(command)) => obey(&command, &mut lock(scale))?,
                Ok(None) | Err(_) => return Ok(()),
            },
        }
    }
}

/// Executes a command; unknown ones are ignored, as scales do.
fn obey(command: &str, scale: &mut SimulatedScale) -> Result<(), Unplugged> {
    match command.trim().split_once(' ').unwrap_or((command.trim(), "")) {
        ("pour", grams) => {
            let grams = grams.parse().unwrap_or(0.0);
            scale.pour(if (0.0..=5000.0).contains(&grams) { grams } else { 0.0 });
        }
        ("tare", _) => scale.tare(),
        ("lift", _) => scale.lift(),
        ("put", "back") => scale.put_back(),
        ("empty", _) => scale.empty(),
        ("unplug", _) => return Err(Unplugged),
        _ => {}
    }
    Ok(())
}

/// A simulated scale as a child process, which ends with this process or when dropped.
#[derive(Debug)]
pub struct Process {
    /// Its address.
    pub address: SocketAddr,
    _child: Child,
}

impl Process {
    /// Starts this program again as a scale.
    pub async fn start() -> io::Result<Self> {
        let mut child = Command::new(std::env::current_exe()?)
            .args(["scale", "--port", "0"])
            .stdin(Stdio::piped()) // when it is closed the stand-in ends, also where this program was killed
            .stdout(Stdio::piped())
            .kill_on_drop(true)
            .spawn()?;
        let said = child.stdout.take().ok_or_else(|| io::Error::other("the stand-in says nothing"))?;
        let first = BufReader::new(said).lines().next_line().await?.unwrap_or_default();
        let address = first.rsplit(' ').next().and_then(|address| address.parse().ok());
        let address = address.ok_or_else(|| io::Error::other(format!("the stand-in says “{first}”")))?;
        Ok(Self { address, _child: child })
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    /// Lines of the stand-in, once it greeted.
    async fn plugged(at: SocketAddr) -> BufReader<TcpStream> {
        let mut scale = BufReader::new(TcpStream::connect(at).await.unwrap());
        let mut greeting = String::new();
        scale.read_line(&mut greeting).await.unwrap();
        assert_eq!(greeting.trim(), GREETING);
        scale
    }

    async fn weighed(scale: &mut BufReader<TcpStream>) -> ScaleLine {
        let mut line = String::new();
        scale.read_line(&mut line).await.unwrap();
        line.trim().parse().unwrap()
    }

    /// Its first line after it was switched on anew is of the tared pan: one from before would look as if it had only stuttered.
    #[tokio::test]
    async fn switched_on_anew_it_begins_with_nothing() {
        let at = run(0).await.unwrap();
        let mut scale = plugged(at).await;
        scale.write_all(b"pour 50\n").await.unwrap();
        while weighed(&mut scale).await.grams < 40.0 {}
        scale.write_all(b"unplug\n").await.unwrap();
        tokio::io::copy(&mut scale, &mut tokio::io::sink()).await.unwrap(); // to the end: it is unplugged
        let mut scale = plugged(at).await;
        let first = weighed(&mut scale).await;
        assert!(first.grams.abs() < 1.0, "{first}");
    }
}
