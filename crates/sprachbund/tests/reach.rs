//! The built program and live servers: `cargo test -p sprachbund -- --ignored`.

#[path = "../../sprachbund-catalog/tests/server/mod.rs"]
mod server;

use std::path::Path;
use std::process::Command;

/// Makes `ca.pem`, and `cert.pem` with `key.pem` for this machine, signed by it; another
/// `stranger.pem` signs nothing.
fn certificates(folder: &Path, owner: &str) {
    let openssl = |arguments: &str| {
        let done = Command::new("openssl")
            .args(arguments.split(' '))
            .current_dir(folder)
            .output()
            .expect("openssl");
        assert!(done.status.success(), "{}", String::from_utf8_lossy(&done.stderr));
    };
    let new = "-newkey rsa:2048 -nodes -days 2";
    openssl(&format!("req -x509 {new} -keyout ca.key -out ca.pem -subj /CN=harbour"));
    openssl(&format!("req -x509 {new} -keyout stranger.key -out stranger.pem -subj /CN=stranger"));
    openssl("req -newkey rsa:2048 -nodes -keyout key.pem -out request.pem -subj /CN=localhost");
    std::fs::write(folder.join("names"), "subjectAltName=DNS:localhost,IP:127.0.0.1\n")
        .expect("a file");
    openssl(
        "x509 -req -in request.pem -CA ca.pem -CAkey ca.key -CAcreateserial -days 2 -extfile \
         names -out cert.pem",
    );
    std::fs::write(folder.join("hba.conf"), "hostssl all all 127.0.0.1/32 trust\n")
        .expect("a file");
    let _ = Command::new("chown").arg("-R").arg(owner).arg(folder).status();
}

fn parse(address: &str, trusted: &Path) -> (bool, String) {
    let done = Command::new(env!("CARGO_BIN_EXE_sprachbund"))
        .args(["parse", address])
        .env("SSL_CERT_FILE", trusted)
        .output()
        .expect("the program runs");
    let told = String::from_utf8_lossy(&done.stderr).into_owned();
    // An empty database was reached, too.
    (done.status.code() != Some(2) || told.contains("no table was found"), told)
}

#[test]
#[ignore = "starts PostgreSQL and MariaDB"]
fn servers_that_demand_tls() {
    let (one, two) =
        (tempfile::tempdir().expect("a folder"), tempfile::tempdir().expect("a folder"));
    certificates(one.path(), "postgres");
    certificates(two.path(), "mysql");
    let file = |folder: &Path, name: &str| folder.join(name).display().to_string();
    let postgresql = server::postgresql(&[
        "ssl=on".into(),
        format!("ssl_cert_file={}", file(one.path(), "cert.pem")),
        format!("ssl_key_file={}", file(one.path(), "key.pem")),
        format!("hba_file={}", file(one.path(), "hba.conf")),
    ]);
    let mariadb = server::mariadb(&[
        format!("--ssl-cert={}", file(two.path(), "cert.pem")),
        format!("--ssl-key={}", file(two.path(), "key.pem")),
        "--require-secure-transport=ON".into(),
    ]);
    for (address, folder) in [
        (format!("postgresql://harbour@127.0.0.1:{}/postgres", postgresql.port), one.path()),
        (format!("mariadb://root@127.0.0.1:{}/mysql", mariadb.port), two.path()),
    ] {
        for (ask, trusted, reached) in [
            ("", "ca.pem", true),
            // Offered and taken, whoever signed it.
            ("", "stranger.pem", true),
            ("?tls=off", "ca.pem", false),
            ("?tls=required", "ca.pem", true),
            ("?tls=required", "stranger.pem", false),
        ] {
            let (found, told) = parse(&format!("{address}{ask}"), &folder.join(trusted));
            assert_eq!(found, reached, "{address}{ask} with {trusted}: {told}");
        }
    }
}

/// The register in the database differs from the declarations as its script does: in what was
/// planted.
#[test]
#[ignore = "starts PostgreSQL"]
fn a_live_register_differs_as_its_script_does() {
    let demo = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../demo");
    let server = server::postgresql(&[]);
    let port = server.port.to_string();
    let mut psql = Command::new("psql");
    psql.args([
        "-q",
        "-v",
        "ON_ERROR_STOP=1",
        "-h",
        "127.0.0.1",
        "-p",
        &port,
        "-U",
        "harbour",
        "postgres",
        "-f",
    ]);
    assert!(psql.arg(demo.join("sql/harbour.sql")).status().is_ok_and(|status| status.success()));
    let messages = |other: &str| -> Vec<String> {
        let compare = ["compare", "django", other, "--format", "json"];
        let done = Command::new(env!("CARGO_BIN_EXE_sprachbund"))
            .args(compare)
            .current_dir(&demo)
            .output()
            .expect("the program runs");
        let told: serde_json::Value = serde_json::from_slice(&done.stdout).expect("JSON");
        let mut messages: Vec<String> = told["found"]
            .as_array()
            .into_iter()
            .flatten()
            .map(|found| found["message"].to_string())
            .collect();
        messages.sort();
        messages
    };
    let (live, script) = (
        messages(&format!("postgresql://harbour@127.0.0.1:{port}/postgres")),
        messages("sql/harbour.sql"),
    );
    assert_eq!((live.clone(), live.is_empty()), (script, false));
}
