//! The door: connections are taken, counted, limited and let go here. A connection costs no more than its own buffers;
//! whoever sends half a header, does not read, or comes too often is let go, and the end of the program waits for nobody
//! longer than it says.

use std::collections::HashMap;
use std::future::Future;
use std::net::{IpAddr, SocketAddr};
use std::pin::pin;
use std::sync::{Arc, Mutex, PoisonError};
use std::time::Duration;

use axum::Router;
use axum::extract::Request;
use hyper::body::Incoming;
use hyper::server::conn::http1;
use hyper::service::service_fn;
use hyper_util::rt::{TokioIo, TokioTimer};
use hyper_util::server::graceful::{GracefulShutdown, Watcher};
use tokio::io::{AsyncRead, AsyncWrite, AsyncWriteExt};
use tokio::net::{TcpListener, TcpStream};
use tokio_io_timeout::TimeoutStream;
use tokio_rustls::TlsAcceptor;
use tower::ServiceExt;

/// How much the door lets in, and how long it waits.
#[derive(Debug, Clone, Copy)]
pub struct Limits {
    /// Connections in all.
    pub connections: usize,
    /// Connections of one address; a trusted proxy's are not counted.
    pub per_address: usize,
    /// For a whole header, and between two requests.
    pub header: Duration,
    /// For somebody who does not read what was asked for.
    pub unread: Duration,
    /// At the end, for requests that are under way.
    pub leaving: Duration,
}

impl Default for Limits {
    fn default() -> Self {
        Self {
            connections: 4096,
            per_address: 512,
            header: Duration::from_secs(20),
            unread: Duration::from_secs(60),
            leaving: Duration::from_secs(10),
        }
    }
}

/// Where a request comes from, as the door sees it.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Peer {
    /// The address at the other end of the connection: a proxy's, where there is one.
    pub address: SocketAddr,
    /// Whether the connection is encrypted up to here.
    pub encrypted: bool,
}

/// How the door is built.
pub struct Door {
    /// Where it is.
    pub listener: TcpListener,
    /// What it lets in.
    pub limits: Limits,
    /// With which certificate; plain where there is none.
    pub tls: Option<TlsAcceptor>,
    /// Whose connections are not counted by address.
    pub proxies: Vec<IpAddr>,
}

impl Door {
    /// Takes connections until `stop`, then ends those that are left, by force after [`Limits::leaving`].
    pub async fn serve(self, router: Router, stop: impl Future<Output = ()>) {
        // Turned into its final form once, not for each connection.
        let router: Router = router.with_state(());
        let seats = Seats::default();
        let open = GracefulShutdown::new();
        let mut stop = pin!(stop);
        loop {
            let (stream, address) = tokio::select! {
                taken = self.listener.accept() => match taken {
                    Ok(taken) => taken,
                    Err(e) => {
                        // Out of files, mostly: it passes when somebody leaves.
                        tracing::warn!(why = %e, "a connection could not be taken");
                        tokio::time::sleep(Duration::from_millis(200)).await;
                        continue;
                    }
                },
                () = &mut stop => break,
            };
            if !lets_in(address.ip(), &self.proxies) {
                tracing::warn!(from = %address.ip(), "not the proxy: turned away");
                continue;
            }
            let counted = !self.proxies.contains(&address.ip().to_canonical());
            let Some(seat) = seats.take(address.ip(), counted, &self.limits) else {
                tracing::warn!(from = %address.ip(), "too many connections: one was turned away");
                tokio::spawn(turn_away(stream));
                continue;
            };
            let (router, limits, tls, watcher) =
                (router.clone(), self.limits, self.tls.clone(), open.watcher());
            tokio::spawn(async move {
                let _seat = seat;
                let _nodelay = stream.set_nodelay(true);
                match tls {
                    None => {
                        converse(stream, Peer { address, encrypted: false }, router, limits, watcher).await
                    }
                    Some(tls) => {
                        if let Ok(Ok(stream)) = tokio::time::timeout(limits.header, tls.accept(stream)).await
                        {
                            converse(stream, Peer { address, encrypted: true }, router, limits, watcher)
                                .await;
                        }
                    }
                }
            });
        }
        drop(self.listener);
        if tokio::time::timeout(self.limits.leaving, open.shutdown()).await.is_err() {
            tracing::warn!("connections that did not end were cut");
        }
    }
}

/// Whether somebody may come to the door: where a proxy encrypts in front of it, only the proxy and this machine, or
/// passwords would cross the network as they are typed.
fn lets_in(from: IpAddr, proxies: &[IpAddr]) -> bool {
    let from = from.to_canonical();
    proxies.is_empty() || proxies.contains(&from) || from.is_loopback()
}

/// One connection, to its end.
async fn converse(
    stream: impl AsyncRead + AsyncWrite + Send + 'static,
    peer: Peer,
    router: Router,
    limits: Limits,
    watcher: Watcher,
) {
    let mut stream = TimeoutStream::new(stream);
    stream.set_write_timeout(Some(limits.unread));
    let service = service_fn(move |request: hyper::Request<Incoming>| {
        let mut request: Request = request.map(axum::body::Body::new);
        request.extensions_mut().insert(peer);
        router.clone().oneshot(request)
    });
    let connection = http1::Builder::new()
        .timer(TokioTimer::new())
        .header_read_timeout(limits.header)
        .serve_connection(TokioIo::new(Box::pin(stream)), service);
    if let Err(e) = watcher.watch(connection).await {
        tracing::debug!(from = %peer.address, why = %e, "a connection broke");
    }
}

/// Says that there is no room, in the words of an answer, and hangs up.
async fn turn_away(mut stream: TcpStream) {
    const FULL: &[u8] = b"HTTP/1.1 503 Service Unavailable\r\ncontent-type: application/problem+json\r\nretry-after: 5\r\n\
connection: close\r\n\r\n{\"title\":\"no room\",\"status\":503,\"detail\":\"too many connections are open; close some pages and try again\"}";
    let _gone = tokio::time::timeout(Duration::from_secs(1), stream.write_all(FULL)).await;
    let _gone = stream.shutdown().await;
}

/// Who is inside.
#[derive(Debug, Default, Clone)]
struct Seats(Arc<Mutex<Taken>>);

#[derive(Debug, Default)]
struct Taken {
    all: usize,
    of: HashMap<IpAddr, usize>,
}

/// One place inside; free again when it is dropped.
struct Seat {
    seats: Seats,
    of: Option<IpAddr>,
}

impl Seats {
    /// A place for somebody, if there is one.
    fn take(&self, from: IpAddr, counted: bool, limits: &Limits) -> Option<Seat> {
        let mut taken = self.0.lock().unwrap_or_else(PoisonError::into_inner);
        if taken.all >= limits.connections {
            return None;
        }
        let of = counted.then(|| from.to_canonical());
        if let Some(from) = of {
            let his = taken.of.entry(from).or_default();
            if *his >= limits.per_address {
                return None;
            }
            *his += 1;
        }
        taken.all += 1;
        Some(Seat { seats: self.clone(), of })
    }
}

impl Drop for Seat {
    fn drop(&mut self) {
        let mut taken = self.seats.0.lock().unwrap_or_else(PoisonError::into_inner);
        taken.all = taken.all.saturating_sub(1);
        if let Some(from) = self.of
            && let Some(his) = taken.of.get_mut(&from)
        {
            *his = his.saturating_sub(1);
            if *his == 0 {
                taken.of.remove(&from);
            }
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn behind_a_proxy_only_the_proxy_comes_to_the_door() {
        // Addresses that are nobody's: RFC 5737.
        let (proxy, other): (IpAddr, IpAddr) = ([192, 0, 2, 1].into(), [192, 0, 2, 2].into());
        assert!(lets_in(other, &[]));
        assert!(lets_in(proxy, &[proxy]) && !lets_in(other, &[proxy]));
        assert!(lets_in([127, 0, 0, 1].into(), &[proxy]));
        assert!(lets_in("::ffff:192.0.2.1".parse().unwrap(), &[proxy]));
    }

    #[test]
    fn places_are_counted_by_address_and_in_all_and_come_back() {
        let (one, two): (IpAddr, IpAddr) = ([10, 0, 0, 1].into(), [10, 0, 0, 2].into());
        let limits = Limits { connections: 3, per_address: 2, ..Limits::default() };
        let seats = Seats::default();
        let mut held: Vec<Seat> = (0..2).filter_map(|_| seats.take(one, true, &limits)).collect();
        assert_eq!((held.len(), seats.take(one, true, &limits).is_some()), (2, false));
        // A proxy brings many.
        held.extend(seats.take(one, false, &limits));
        assert_eq!((held.len(), seats.take(two, true, &limits).is_some()), (3, false));
        held.clear();
        assert!(seats.take(two, true, &limits).is_some());
        assert!(seats.0.lock().unwrap().of.is_empty(), "nobody is remembered");
    }
}
