//! A line that nobody listens in on: certificate and key from PEM files.

use rustls_pki_types::pem::PemObject;
use rustls_pki_types::{CertificateDer, PrivateKeyDer};
use std::path::Path;
use std::sync::Arc;
use tokio_rustls::TlsAcceptor;
use tokio_rustls::rustls::ServerConfig;

/// Reads a certificate with those above it, and its key.
///
/// # Errors
/// A file that cannot be read, or that holds no such thing; a key that does not fit.
pub fn acceptor(
    certificate: &Path,
    key: &Path,
) -> Result<TlsAcceptor, Box<dyn std::error::Error + Send + Sync>> {
    let chain: Vec<_> = CertificateDer::pem_file_iter(certificate)?.collect::<Result<_, _>>()?;
    let key = PrivateKeyDer::from_pem_file(key)?;
    let config = ServerConfig::builder().with_no_client_auth().with_single_cert(chain, key)?;
    Ok(TlsAcceptor::from(Arc::new(config)))
}
