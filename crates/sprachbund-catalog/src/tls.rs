//! TLS with the certificates that the machine trusts.

use std::path::PathBuf;
use std::sync::Arc;

use rustls::client::danger::{HandshakeSignatureValid, ServerCertVerified, ServerCertVerifier};
use rustls::crypto::{CryptoProvider, ring, verify_tls12_signature, verify_tls13_signature};
use rustls::pki_types::{CertificateDer, ServerName, UnixTime};
use rustls::{ClientConfig, DigitallySignedStruct, RootCertStore, SignatureScheme};

use crate::address::Tls;

/// The configuration for PostgreSQL: a trusted certificate where TLS is required, any where it is
/// only offered.
pub(crate) fn configuration(tls: Tls) -> Result<ClientConfig, rustls::Error> {
    let provider = Arc::new(ring::default_provider());
    let builder = ClientConfig::builder_with_provider(provider.clone())
        .with_safe_default_protocol_versions()?;
    Ok(match tls {
        Tls::Required => {
            let mut roots = RootCertStore::empty();
            roots.add_parsable_certificates(rustls_native_certs::load_native_certs().certs);
            builder.with_root_certificates(roots).with_no_client_auth()
        }
        Tls::Offered | Tls::Off => builder
            .dangerous()
            .with_custom_certificate_verifier(Arc::new(Anyone(provider)))
            .with_no_client_auth(),
    })
}

/// Where systems keep the certificates that they trust, in one file.
const BUNDLES: &[&str] = &[
    "/etc/ssl/certs/ca-certificates.crt",
    "/etc/pki/tls/certs/ca-bundle.crt",
    "/etc/ssl/ca-bundle.pem",
    "/etc/ssl/cert.pem",
];

/// The file of trusted certificates: `SSL_CERT_FILE`, else the system's. The client of MariaDB and
/// MySQL takes a file.
pub(crate) fn bundle() -> Option<PathBuf> {
    let named = std::env::var_os("SSL_CERT_FILE").map(PathBuf::from);
    named.or_else(|| BUNDLES.iter().map(PathBuf::from).find(|path| path.is_file()))
}

/// Takes any certificate: hides the talk from listeners, as an offered TLS does, and proves nobody.
#[derive(Debug)]
struct Anyone(Arc<CryptoProvider>);

impl ServerCertVerifier for Anyone {
    fn verify_server_cert(
        &self,
        _: &CertificateDer<'_>,
        _: &[CertificateDer<'_>],
        _: &ServerName<'_>,
        _: &[u8],
        _: UnixTime,
    ) -> Result<ServerCertVerified, rustls::Error> {
        Ok(ServerCertVerified::assertion())
    }

    fn verify_tls12_signature(
        &self,
        message: &[u8],
        certificate: &CertificateDer<'_>,
        signature: &DigitallySignedStruct,
    ) -> Result<HandshakeSignatureValid, rustls::Error> {
        verify_tls12_signature(
            message,
            certificate,
            signature,
            &self.0.signature_verification_algorithms,
        )
    }

    fn verify_tls13_signature(
        &self,
        message: &[u8],
        certificate: &CertificateDer<'_>,
        signature: &DigitallySignedStruct,
    ) -> Result<HandshakeSignatureValid, rustls::Error> {
        verify_tls13_signature(
            message,
            certificate,
            signature,
            &self.0.signature_verification_algorithms,
        )
    }

    fn supported_verify_schemes(&self) -> Vec<SignatureScheme> {
        self.0.signature_verification_algorithms.supported_schemes()
    }
}
