//! Servers for tests: each in a private folder, on a free port, stopped at the end.

use std::net::TcpListener;
use std::path::{Path, PathBuf};
use std::process::{Child, Command, Stdio};
use std::time::Duration;

use tempfile::TempDir;

/// A running server.
pub(crate) struct Server {
    process: Child,
    pub(crate) port: u16,
    _folder: TempDir,
}

impl Drop for Server {
    fn drop(&mut self) {
        let _ = self.process.kill();
        let _ = self.process.wait();
    }
}

fn free_port() -> u16 {
    TcpListener::bind("127.0.0.1:0")
        .and_then(|listener| listener.local_addr())
        .map(|address| address.port())
        .expect("a free port")
}

/// A command as `user`, since servers refuse to run as root.
fn as_user(user: &str, program: &Path) -> Command {
    let root =
        Command::new("id").arg("-u").output().is_ok_and(|output| output.stdout.starts_with(b"0"));
    if !root {
        return Command::new(program);
    }
    let mut command = Command::new("setpriv");
    command
        .args([format!("--reuid={user}"), format!("--regid={user}"), "--clear-groups".into()])
        .arg(program);
    command
}

fn folder_of(user: &str) -> TempDir {
    let folder = TempDir::new().expect("a folder");
    let _ = Command::new("chown").arg(user).arg(folder.path()).status();
    folder
}

fn wait_for(port: u16) {
    for _ in 0..200 {
        if std::net::TcpStream::connect(("127.0.0.1", port)).is_ok() {
            return;
        }
        std::thread::sleep(Duration::from_millis(100));
    }
    panic!("no server answers on port {port}");
}

fn quiet(command: &mut Command) -> &mut Command {
    command.stdin(Stdio::null()).stdout(Stdio::null()).stderr(Stdio::null()).current_dir("/")
}

/// PostgreSQL of Debian's package, the newest that is installed, with further settings (`ssl=on`).
pub(crate) fn postgresql(settings: &[String]) -> Server {
    let versions = std::fs::read_dir("/usr/lib/postgresql").expect("Debian's package postgresql");
    let mut versions: Vec<PathBuf> = versions.flatten().map(|entry| entry.path()).collect();
    versions.sort();
    let programs = versions.last().expect("a version").join("bin");
    let (folder, port) = (folder_of("postgres"), free_port());
    let data = folder.path().join("data");
    let made = quiet(as_user("postgres", &programs.join("initdb")).arg("-D").arg(&data).args([
        "-U",
        "harbour",
        "--auth=trust",
        "-E",
        "UTF8",
        "--locale=C.UTF-8",
    ]))
    .status();
    assert!(made.is_ok_and(|status| status.success()), "initdb");
    let mut command = as_user("postgres", &programs.join("postgres"));
    command
        .arg("-D")
        .arg(&data)
        .args([
            "-p",
            &port.to_string(),
            "-c",
            "listen_addresses=127.0.0.1",
            "-c",
            "fsync=off",
            "-k",
        ])
        .arg(folder.path())
        .args(settings.iter().flat_map(|setting| ["-c", setting]));
    let process = quiet(&mut command).spawn().expect("postgres");
    wait_for(port);
    Server { process, port, _folder: folder }
}

/// MariaDB of Debian's package, with further settings (`--ssl-cert=...`).
pub(crate) fn mariadb(settings: &[String]) -> Server {
    let (folder, port) = (folder_of("mysql"), free_port());
    let data = folder.path().join("data");
    let data = format!("--datadir={}", data.display());
    let made = quiet(Command::new("mariadb-install-db").args([
        "--no-defaults",
        "--user=mysql",
        &data,
        "--auth-root-authentication-method=normal",
    ]))
    .status();
    assert!(made.is_ok_and(|status| status.success()), "mariadb-install-db");
    let mut command = as_user("mysql", Path::new("/usr/sbin/mariadbd"));
    command.args([
        "--no-defaults",
        &data,
        &format!("--port={port}"),
        "--bind-address=127.0.0.1",
        "--innodb-flush-log-at-trx-commit=0",
    ]);
    command
        .arg(format!("--socket={}", folder.path().join("socket").display()))
        .arg(format!("--pid-file={}", folder.path().join("pid").display()))
        // A server that starts removes what is temporary in this folder: of another one, too, that
        // runs and needs it.
        .arg(format!("--tmpdir={}", folder.path().display()))
        .args(settings);
    let process = quiet(&mut command).spawn().expect("mariadbd");
    wait_for(port);
    Server { process, port, _folder: folder }
}

/// MySQL of Debian's next release, in the root that `conformance/mysql_root` makes; `None` where
/// that cannot be made, which it says.
#[allow(dead_code, reason = "one of the two tests alone asks for it")]
pub(crate) fn mysql() -> Option<Server> {
    let house =
        Path::new(env!("CARGO_MANIFEST_DIR")).parent().and_then(Path::parent).expect("a workspace");
    let made = Command::new(house.join("conformance/mysql_root"))
        .arg(house.join(".work/sid"))
        .stdin(Stdio::null())
        .output()
        .ok()?;
    if !made.status.success() {
        eprint!("{}", String::from_utf8_lossy(&made.stderr));
        return None;
    }
    let root = PathBuf::from(String::from_utf8(made.stdout).ok()?.trim());
    let port = free_port();
    let folder = tempfile::Builder::new().prefix("tests").tempdir_in(root.join("var/lib")).ok()?;
    let inside = Path::new("/").join(folder.path().strip_prefix(&root).ok()?);
    let inside = inside.display();
    let within = |program: &str| {
        let mut command = Command::new("chroot");
        command.arg(&root).arg(program);
        command
    };
    let owned = quiet(within("chown").arg("mysql:mysql").arg(inside.to_string())).status();
    assert!(owned.is_ok_and(|status| status.success()), "chown");
    let data = format!("--datadir={inside}/db");
    let made = quiet(within("mysqld").args([
        "--no-defaults",
        "--initialize-insecure",
        "--user=mysql",
        &data,
    ]))
    .status();
    assert!(made.is_ok_and(|status| status.success()), "mysqld --initialize-insecure");
    let mut command = within("mysqld");
    command.args([
        "--no-defaults",
        "--mysqlx=OFF",
        "--user=mysql",
        &data,
        &format!("--port={port}"),
        "--bind-address=127.0.0.1",
    ]);
    command
        .args([
            format!("--socket={inside}/socket"),
            format!("--pid-file={inside}/pid"),
            format!("--tmpdir={inside}"),
        ])
        .arg("--innodb-flush-log-at-trx-commit=0");
    let process = quiet(&mut command).spawn().expect("mysqld");
    wait_for(port);
    Some(Server { process, port, _folder: folder })
}
