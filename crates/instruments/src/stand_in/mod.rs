//! The simulated bench: five instruments on loopback, and one part on the clips that they share.
//!
//! It speaks IEEE 488.2 common commands and SCPI-1999 style `MEAS:`, `CONF:`, `READ?`, `FETC?`, `SYST:ERR?`. Its own `SIM:`
//! commands say what lies on the clips, how the knobs stand, and what goes wrong.

mod clips;
mod dialogue;
mod fault;
mod header;
mod meters;
mod parts;

use std::net::{Ipv4Addr, SocketAddr};
use std::sync::{Arc, Mutex};
use std::time::Duration;

use tokio::io::{AsyncBufReadExt, AsyncReadExt, AsyncWriteExt, BufReader};
use tokio::net::{TcpListener, TcpStream};

pub use self::clips::{Clips, Connection};
pub use self::dialogue::{Dialogue, Said};
pub use self::fault::Fault;
pub use self::meters::Kind;
pub use self::parts::{PartsError, TruePart, read_parts};

/// How the simulated instruments begin their identity.
pub const MAKER: &str = "Restless Owl,Simulated";

/// The longest command line that is read.
const LONGEST: u64 = 2048;

/// A bench that listens.
#[derive(Debug)]
pub struct StandIn {
    /// Each instrument and where it is.
    pub instruments: Vec<(Kind, SocketAddr)>,
    /// What lies on the clips.
    pub clips: Arc<Mutex<Clips>>,
    tasks: Vec<tokio::task::JoinHandle<()>>,
}

impl StandIn {
    /// Starts the bench on loopback: the first instrument at `port`, the others after it; port 0 takes free ones.
    ///
    /// # Errors
    /// When a port is taken.
    pub async fn start(port: u16, clips: Clips) -> std::io::Result<Self> {
        let clips = Arc::new(Mutex::new(clips));
        let (mut instruments, mut tasks) = (Vec::new(), Vec::new());
        for (n, kind) in (0u16..).zip(Kind::ALL) {
            let own = if port == 0 { 0 } else { port.saturating_add(n) };
            let listener = TcpListener::bind((Ipv4Addr::LOCALHOST, own)).await?;
            instruments.push((kind, listener.local_addr()?));
            tasks.push(tokio::spawn(serve(listener, kind, clips.clone())));
        }
        Ok(Self { instruments, clips, tasks })
    }

    /// Where an instrument is.
    #[must_use]
    pub fn address(&self, kind: Kind) -> Option<SocketAddr> {
        self.instruments.iter().find(|(k, _)| *k == kind).map(|(_, a)| *a)
    }

    /// Serves until it is dropped.
    pub async fn forever(mut self) {
        for task in self.tasks.drain(..) {
            let _ended = task.await;
        }
    }
}

impl Drop for StandIn {
    fn drop(&mut self) {
        for task in &self.tasks {
            task.abort();
        }
    }
}

async fn serve(listener: TcpListener, kind: Kind, clips: Arc<Mutex<Clips>>) {
    loop {
        match listener.accept().await {
            Ok((stream, _)) => {
                tokio::spawn(talk(stream, kind, clips.clone()));
            }
            // Out of descriptors: somebody else hangs up soon.
            Err(_) => tokio::time::sleep(Duration::from_millis(100)).await,
        }
    }
}

async fn talk(stream: TcpStream, kind: Kind, clips: Arc<Mutex<Clips>>) {
    let (read, mut write) = stream.into_split();
    let mut read = BufReader::new(read);
    let mut dialogue = Dialogue::new(kind);
    loop {
        let mut line = Vec::new();
        match (&mut read).take(LONGEST).read_until(b'\n', &mut line).await {
            Ok(n) if n > 0 => {}
            _ => return,
        }
        let text = String::from_utf8_lossy(&line).into_owned();
        let said = match clips.lock() {
            Ok(mut clips) => dialogue.line(&text, &mut clips),
            Err(_) => return,
        };
        let Some(said) = said else { continue };
        tokio::time::sleep(said.after).await;
        if said.text.is_empty() && said.hangs_up {
            return;
        }
        if write.write_all(said.text.as_bytes()).await.is_err() || said.hangs_up {
            return;
        }
    }
}
