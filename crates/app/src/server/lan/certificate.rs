//! The certificate that the local network is served with: made once for an address, and kept.
//!
//! A browser wants a certificate that an authority signed. One is made for this address alone, signs this one
//! certificate, and its key is thrown away at once: whoever lets a device trust it trusts nothing else with it.

use std::fmt::Write as _;
use std::io::{self, Write as _};
use std::net::IpAddr;
use std::path::{Path, PathBuf};

use rcgen::{
    BasicConstraints, CertificateParams, DnType, ExtendedKeyUsagePurpose, IsCa, Issuer, KeyPair, KeyUsagePurpose,
};
use serde::{Deserialize, Serialize};
use sha2::{Digest, Sha256};
use thiserror::Error;
use time::{Duration, OffsetDateTime};
use tokio_rustls::rustls::ServerConfig;
use tokio_rustls::rustls::crypto::ring;
use tokio_rustls::rustls::pki_types::pem::PemObject;
use tokio_rustls::rustls::pki_types::{CertificateDer, PrivateKeyDer};

/// How long one is good for. Some devices refuse those that are good for longer than 825 days.
const GOOD_FOR: Duration = Duration::days(820);
/// A new one is made when the old one is good for less than this.
const RENEWED_BEFORE: Duration = Duration::days(20);

/// Why there is no certificate.
#[derive(Debug, Error)]
pub(crate) enum CertificateError {
    /// The file is there and is not one.
    #[error(
        "the certificate in {} cannot be read ({problem}); move the file away and a new one is made, which devices that trust the old one will warn of",
        path.display()
    )]
    Damaged {
        /// Where.
        path: PathBuf,
        /// Why.
        problem: String,
    },
    /// It cannot be read or kept.
    #[error("the certificate cannot be kept in {} ({problem})", path.display())]
    NotKept {
        /// Where.
        path: PathBuf,
        /// Why.
        problem: io::Error,
    },
    /// It could not be made.
    #[error("no certificate could be made: {0}")]
    NotMade(#[from] rcgen::Error),
}

/// A certificate with its key, ready to serve.
pub(crate) struct Certificate {
    /// SHA-256 of the certificate, as browsers show it: pairs of hexadecimal digits with colons between.
    pub(crate) fingerprint: String,
    /// What a device may be told to trust: DER.
    pub(crate) authority: Vec<u8>,
    /// For the listener.
    pub(crate) tls: ServerConfig,
}

/// As it is kept.
#[derive(Serialize, Deserialize)]
struct Kept {
    /// Seconds since 1970 at which it ends.
    ends: i64,
    /// The certificate, then its authority: PEM.
    chain: String,
    /// The certificate's key: PEM.
    key: String,
}

impl Certificate {
    /// The certificate for `address` that is kept in `folder`; made at `now` where there is none, or it is about to end.
    ///
    /// # Errors
    /// [`CertificateError`] as its variants say. One that is there and cannot be read is never replaced unasked.
    pub(crate) fn keep(folder: &Path, address: IpAddr, now: OffsetDateTime) -> Result<Self, CertificateError> {
        let path = folder.join(format!("tls-{}.json", address.to_string().replace(':', "-")));
        let damaged = |problem: String| CertificateError::Damaged { path: path.clone(), problem };
        let kept = match std::fs::read(&path) {
            Ok(bytes) => Some(serde_json::from_slice::<Kept>(&bytes).map_err(|error| damaged(error.to_string()))?),
            Err(problem) if problem.kind() == io::ErrorKind::NotFound => None,
            Err(problem) => return Err(CertificateError::NotKept { path, problem }),
        };
        let still_good = |kept: &Kept| kept.ends >= (now + RENEWED_BEFORE).unix_timestamp();
        let kept = match kept.filter(still_good) {
            Some(kept) => kept,
            None => {
                let made = make(address, now)?;
                write(&path, &made).map_err(|problem| CertificateError::NotKept { path: path.clone(), problem })?;
                made
            }
        };
        read(&kept).map_err(damaged)
    }
}

fn make(address: IpAddr, now: OffsetDateTime) -> Result<Kept, rcgen::Error> {
    // A device's clock may be slow.
    let (begins, ends) = (now - Duration::days(1), now + GOOD_FOR);
    let params = |name: String| -> Result<CertificateParams, rcgen::Error> {
        let mut params = CertificateParams::new(Vec::new())?;
        params.distinguished_name.push(DnType::CommonName, name);
        (params.not_before, params.not_after) = (begins, ends);
        Ok(params)
    };
    let mut of_authority = params(format!("Nook Bend at {address} (authority)"))?;
    of_authority.is_ca = IsCa::Ca(BasicConstraints::Constrained(0));
    of_authority.key_usages = vec![KeyUsagePurpose::KeyCertSign];
    let thrown_away = KeyPair::generate()?;
    let authority = of_authority.self_signed(&thrown_away)?;
    let mut of_server = params(format!("Nook Bend at {address}"))?;
    of_server.subject_alt_names = vec![rcgen::SanType::IpAddress(address)];
    of_server.extended_key_usages = vec![ExtendedKeyUsagePurpose::ServerAuth];
    of_server.key_usages = vec![KeyUsagePurpose::DigitalSignature];
    of_server.use_authority_key_identifier_extension = true;
    let key = KeyPair::generate()?;
    let server = of_server.signed_by(&key, &Issuer::new(of_authority, thrown_away))?;
    let chain = server.pem() + &authority.pem();
    Ok(Kept { ends: ends.unix_timestamp(), chain, key: key.serialize_pem() })
}

/// Whole or not at all, and for its owner's eyes only.
fn write(path: &Path, kept: &Kept) -> io::Result<()> {
    let folder = path.parent().unwrap_or_else(|| Path::new("."));
    let mut file = tempfile::NamedTempFile::new_in(folder)?;
    file.write_all(&serde_json::to_vec_pretty(kept)?)?;
    file.as_file().sync_all()?;
    file.persist(path)?;
    Ok(())
}

fn read(kept: &Kept) -> Result<Certificate, String> {
    let told = |error: &dyn std::fmt::Display| error.to_string();
    let chain: Vec<CertificateDer<'static>> = CertificateDer::pem_slice_iter(kept.chain.as_bytes())
        .collect::<Result<_, _>>()
        .map_err(|error| told(&error))?;
    let [server, authority] = chain.as_slice() else {
        return Err(format!("it holds {} certificates, not 2", chain.len()));
    };
    let (fingerprint, authority) = (fingerprint(server), authority.to_vec());
    let key = PrivateKeyDer::from_pem_slice(kept.key.as_bytes()).map_err(|error| told(&error))?;
    let mut tls = ServerConfig::builder_with_provider(ring::default_provider().into())
        .with_safe_default_protocol_versions()
        .and_then(|config| config.with_no_client_auth().with_single_cert(chain, key))
        .map_err(|error| told(&error))?;
    tls.alpn_protocols = vec![b"http/1.1".to_vec()];
    Ok(Certificate { fingerprint, authority, tls })
}

fn fingerprint(certificate: &[u8]) -> String {
    let digest = Sha256::digest(certificate);
    let mut text = String::new();
    for (index, byte) in digest.iter().enumerate() {
        let colon = if index == 0 { "" } else { ":" };
        // Writing to a text cannot fail.
        let _ = write!(text, "{colon}{byte:02X}");
    }
    text
}

#[cfg(test)]
mod tests {
    use super::*;

    const HERE: IpAddr = IpAddr::V4(std::net::Ipv4Addr::new(192, 168, 1, 20));

    #[test]
    fn it_is_made_once_for_an_address_and_renewed_before_it_ends() {
        let folder = tempfile::tempdir().unwrap();
        let now = OffsetDateTime::UNIX_EPOCH + Duration::days(20_000);
        let keep = |address, now| Certificate::keep(folder.path(), address, now).unwrap().fingerprint;
        let first = keep(HERE, now);
        assert_eq!(first.len(), 95);
        assert_eq!(keep(HERE, now + Duration::days(799)), first);
        assert_ne!(keep("fd00::7".parse().unwrap(), now), first);
        assert_ne!(keep(HERE, now + Duration::days(801)), first);
    }

    #[cfg(unix)]
    #[test]
    fn nobody_else_reads_the_key_and_the_authority_has_none() {
        use std::os::unix::fs::PermissionsExt;
        let folder = tempfile::tempdir().unwrap();
        let made = Certificate::keep(folder.path(), HERE, OffsetDateTime::now_utc()).unwrap();
        let path = folder.path().join("tls-192.168.1.20.json");
        assert_eq!(std::fs::metadata(&path).unwrap().permissions().mode() & 0o777, 0o600);
        let kept: Kept = serde_json::from_slice(&std::fs::read(&path).unwrap()).unwrap();
        assert_eq!(kept.key.matches("BEGIN PRIVATE KEY").count(), 1);
        assert!(!made.authority.is_empty() && fingerprint(&made.authority) != made.fingerprint);
    }

    #[test]
    fn one_that_cannot_be_read_is_left_as_it_is_and_named() {
        let folder = tempfile::tempdir().unwrap();
        let path = folder.path().join("tls-192.168.1.20.json");
        let now = OffsetDateTime::now_utc();
        let whole = make(HERE, now).unwrap();
        let alone = whole.chain.split_inclusive("-----END CERTIFICATE-----\n").next().unwrap().to_owned();
        let other = make(HERE, now).unwrap().key;
        let damaged = [
            Kept { chain: alone, ..make(HERE, now).unwrap() },
            Kept { key: "no key".to_owned(), ..make(HERE, now).unwrap() },
            Kept { key: other, ..whole },
        ];
        let texts = damaged.iter().map(|kept| serde_json::to_string(kept).unwrap());
        for text in texts.chain([String::new(), "{}".to_owned()]) {
            std::fs::write(&path, &text).unwrap();
            let error = Certificate::keep(folder.path(), HERE, now).err().unwrap();
            assert!(matches!(error, CertificateError::Damaged { .. }), "{error}");
            assert_eq!(std::fs::read_to_string(&path).unwrap(), text);
        }
    }
}
