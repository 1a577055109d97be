//! Connections: how many, how long each may take, and how they end. Whoever opens many and says nothing
//! costs a few kilobytes each and is let go of; whoever is refused is told so.

use crate::words;
use axum::Router;
use axum::body::Body;
use axum::extract::ConnectInfo;
use axum::http::{Request, StatusCode, header};
use axum::response::Response;
use hyper::body::Incoming;
use hyper::server::conn::http1::Builder;
use hyper::service::service_fn;
use hyper_util::rt::{TokioIo, TokioTimer};
use std::collections::HashMap;
use std::net::{IpAddr, SocketAddr};
use std::pin::pin;
use std::sync::{Arc, Mutex, PoisonError};
use std::time::Duration;
use tokio::io::{AsyncRead, AsyncReadExt, AsyncWrite, AsyncWriteExt};
use tokio::net::{TcpListener, TcpStream};
use tokio::sync::watch;
use tokio_io_timeout::TimeoutStream;
use tokio_rustls::TlsAcceptor;
use tower::ServiceExt as _;

/// Bounds of the connections of one program.
#[derive(Debug, Clone, Copy)]
pub struct Bounds {
    /// Connections at once.
    pub all: usize,
    /// Connections at once of one address. A workshop behind one address has many screens.
    pub of_one: usize,
    /// Requests of one address that are being answered at once.
    pub waiting: usize,
    /// Until the head of a request has come, a connection that lies idle among them.
    pub head: Duration,
    /// Until a peer takes what it is sent.
    pub stall: Duration,
    /// Until a request is answered, its body among it; a workshop file may take thirty times that.
    pub answer: Duration,
    /// For requests that are being answered when the program ends.
    pub end: Duration,
}

impl Default for Bounds {
    fn default() -> Self {
        Self {
            all: 2_048,
            of_one: 768,
            waiting: 256,
            head: Duration::from_secs(30),
            stall: Duration::from_secs(60),
            answer: Duration::from_secs(30),
            end: Duration::from_secs(10),
        }
    }
}

/// How much longer the largest body may take.
pub(crate) const UPLOAD: u32 = 30;

/// Longest head of a request, bytes.
const HEAD: usize = 32 * 1024;
/// How long a peer that was refused may take to hear it.
const REFUSING: Duration = Duration::from_secs(2);
/// After a failure to accept, such as no more file handles.
const AGAIN: Duration = Duration::from_millis(100);

/// Who is connected, and what is being answered, by address.
#[derive(Debug, Clone, Default)]
struct Counted(Arc<Mutex<HashMap<IpAddr, usize>>>);

/// One of those counted, until it is dropped.
struct One {
    of: IpAddr,
    all: Counted,
}

impl Counted {
    /// One more of this address; none when there are as many as may be.
    fn one_more(&self, of: IpAddr, most: usize, most_of_all: usize) -> Option<One> {
        let mut counts = self.0.lock().unwrap_or_else(PoisonError::into_inner);
        if counts.values().sum::<usize>() >= most_of_all {
            return None;
        }
        let count = counts.entry(of).or_default();
        if *count >= most {
            return None;
        }
        *count += 1;
        Some(One { of, all: self.clone() })
    }
}

impl Drop for One {
    fn drop(&mut self) {
        let mut counts = self.all.0.lock().unwrap_or_else(PoisonError::into_inner);
        if let Some(count) = counts.get_mut(&self.of) {
            *count -= 1;
            if *count == 0 {
                counts.remove(&self.of);
            }
        }
    }
}

/// What every connection is served with.
#[derive(Clone)]
struct Served {
    app: Router,
    bounds: Bounds,
    waiting: Counted,
    ending: watch::Receiver<bool>,
}

/// Accepts and serves until `shutdown` is done; then what is being answered is brought to its end.
pub(crate) async fn accept(
    listener: TcpListener,
    app: Router,
    tls: Option<TlsAcceptor>,
    bounds: Bounds,
    shutdown: impl Future<Output = ()>,
) {
    let (end, ending) = watch::channel(false);
    let served = Served { app, bounds, waiting: Counted::default(), ending };
    let connected = Counted::default();
    let mut shutdown = pin!(shutdown);
    loop {
        let accepted = tokio::select! {
            accepted = listener.accept() => accepted,
            () = &mut shutdown => break,
        };
        let (stream, peer) = match accepted {
            Ok(accepted) => accepted,
            Err(error) => {
                tracing::warn!(%error, "a connection could not be accepted");
                tokio::time::sleep(AGAIN).await;
                continue;
            }
        };
        let Some(one) = connected.one_more(peer.ip(), bounds.of_one, bounds.all) else {
            // Over TLS nothing can be said before a handshake, which is what there is no room for.
            if tls.is_none() {
                tokio::spawn(refuse(stream));
            }
            continue;
        };
        let (served, tls) = (served.clone(), tls.clone());
        tokio::spawn(async move {
            let _ = stream.set_nodelay(true);
            match tls {
                None => serve(stream, peer, served).await,
                Some(tls) => {
                    let met = tokio::time::timeout(served.bounds.head, tls.accept(stream)).await;
                    if let Ok(Ok(stream)) = met {
                        serve(stream, peer, served).await;
                    }
                }
            }
            drop(one);
        });
    }
    drop(listener);
    end.send_replace(true);
    let done = end.closed();
    // Each connection holds a receiver until it has ended; this one is not waited for.
    drop(served);
    let _ = tokio::time::timeout(bounds.end, done).await;
}

async fn serve<S>(stream: S, peer: SocketAddr, served: Served)
where
    S: AsyncRead + AsyncWrite + Send + 'static,
{
    let Served { app, bounds, waiting, mut ending } = served;
    let mut stream = TimeoutStream::new(stream);
    stream.set_write_timeout(Some(bounds.stall));
    let answer = service_fn(move |request: Request<Incoming>| {
        let (app, waiting) = (app.clone(), waiting.clone());
        async move {
            let Some(_one) = waiting.one_more(peer.ip(), bounds.waiting, usize::MAX) else {
                return Ok(busy());
            };
            let mut request = request.map(Body::new);
            request.extensions_mut().insert(ConnectInfo(peer));
            app.oneshot(request).await
        }
    });
    let mut builder = Builder::new();
    builder.timer(TokioTimer::new()).header_read_timeout(bounds.head).max_header_size(HEAD);
    let mut connection =
        pin!(builder.serve_connection(TokioIo::new(Box::pin(stream)), answer).with_upgrades());
    tokio::select! {
        // Whoever broke off or said nothing is no fault of ours.
        _ = connection.as_mut() => return,
        _ = ending.wait_for(|ending| *ending) => {}
    }
    connection.as_mut().graceful_shutdown();
    let _ = connection.await;
}

/// Too many requests of one address at once.
fn busy() -> Response {
    let mut response = Response::new(Body::from(words::TOO_MANY_JSON));
    *response.status_mut() = StatusCode::SERVICE_UNAVAILABLE;
    let headers = response.headers_mut();
    headers
        .insert(header::CONTENT_TYPE, header::HeaderValue::from_static("application/problem+json"));
    headers.insert(header::RETRY_AFTER, header::HeaderValue::from_static("1"));
    response
}

/// Says that there is no room, and closes so that it is heard: what the peer sends meanwhile is read.
async fn refuse(mut stream: TcpStream) {
    let says = words::too_many_head();
    let told = async {
        stream.write_all(says.as_bytes()).await?;
        stream.shutdown().await?;
        let mut rest = [0; 1024];
        while stream.read(&mut rest).await? > 0 {}
        std::io::Result::Ok(())
    };
    let _ = tokio::time::timeout(REFUSING, told).await;
}
