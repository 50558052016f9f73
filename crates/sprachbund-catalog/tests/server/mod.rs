//! Servers for tests: each in a private folder, on a free port, stopped at the end.
//!
//! Those of the machine's own Debian packages, and those of other releases of Debian, in the roots
//! that `conformance/server_root` makes.
#![allow(dead_code, reason = "each test asks for some of them")]

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

/// Where the programs of servers are: on the machine, or in the root of another release of Debian.
#[derive(Clone)]
pub(crate) struct Installed {
    root: Option<PathBuf>,
}

impl Installed {
    pub(crate) const HERE: Installed = Installed { root: None };

    /// The root of a release of Debian (`trixie`, `sid`); `None` where it cannot be made, which is
    /// said.
    pub(crate) fn of_suite(suite: &str) -> Option<Installed> {
        let house = Path::new(env!("CARGO_MANIFEST_DIR")).parent().and_then(Path::parent)?;
        let made = Command::new(house.join("conformance/server_root"))
            .arg(suite)
            .arg(house.join(".work").join(suite))
            .stdin(Stdio::null())
            .output()
            .ok()?;
        if !made.status.success() {
            eprint!("{}", String::from_utf8_lossy(&made.stderr));
            return None;
        }
        let root = PathBuf::from(String::from_utf8(made.stdout).ok()?.trim());
        Some(Installed { root: Some(root) })
    }

    /// A program by its path, with the rights of a user: servers refuse to run as root.
    pub(crate) fn command(&self, user: Option<&str>, program: &str) -> Command {
        let mut words: Vec<String> = Vec::new();
        if let Some(root) = &self.root {
            words.extend(["chroot".to_owned(), root.display().to_string()]);
        }
        let is_root = || {
            let id = Command::new("id").arg("-u").output();
            id.is_ok_and(|output| output.stdout.starts_with(b"0"))
        };
        if let Some(user) = user.filter(|_| is_root()) {
            words.push("setpriv".into());
            words.extend([format!("--reuid={user}"), format!("--regid={user}")]);
            words.push("--clear-groups".into());
        }
        words.push(program.to_owned());
        let mut command = Command::new(&words[0]);
        command.args(&words[1..]);
        command.stdin(Stdio::null()).stdout(Stdio::null()).stderr(Stdio::null()).current_dir("/");
        command
    }

    /// A folder that belongs to a user, and its path where the programs see it.
    fn folder_of(&self, user: &str) -> (TempDir, PathBuf) {
        let folder = match &self.root {
            Some(root) => tempfile::Builder::new().prefix("tests").tempdir_in(root.join("var/lib")),
            None => TempDir::new(),
        };
        let folder = folder.expect("a folder");
        let inside = match &self.root {
            Some(root) => Path::new("/").join(folder.path().strip_prefix(root).expect("inside")),
            None => folder.path().to_owned(),
        };
        let _ = self.command(None, "chown").arg(user).arg(&inside).status();
        (folder, inside)
    }

    /// The folder of PostgreSQL's programs, of the newest release there.
    pub(crate) fn programs_of_postgresql(&self) -> String {
        let root = self.root.clone().unwrap_or_else(|| PathBuf::from("/"));
        let versions = std::fs::read_dir(root.join("usr/lib/postgresql"));
        let versions = versions.expect("Debian's package postgresql").flatten();
        let newest = versions.map(|entry| entry.file_name()).max().expect("a version");
        format!("/usr/lib/postgresql/{}/bin", newest.display())
    }

    /// PostgreSQL, with further settings (`ssl=on`).
    pub(crate) fn postgresql(&self, settings: &[String]) -> Server {
        let programs = self.programs_of_postgresql();
        let ((folder, inside), port) = (self.folder_of("postgres"), free_port());
        let data = inside.join("data");
        let mut made = self.command(Some("postgres"), &format!("{programs}/initdb"));
        made.arg("-D").arg(&data);
        made.args(["-U", "harbour", "--auth=trust", "-E", "UTF8", "--locale=C.UTF-8"]);
        assert!(made.status().is_ok_and(|status| status.success()), "initdb");
        let mut command = self.command(Some("postgres"), &format!("{programs}/postgres"));
        command.arg("-D").arg(&data).args(["-p", &port.to_string()]);
        command.args(["-c", "listen_addresses=127.0.0.1", "-c", "fsync=off", "-k"]).arg(&inside);
        command.args(settings.iter().flat_map(|setting| ["-c", setting]));
        let server = begun(command, port, folder);
        // It listens before it lets anybody in.
        for _ in 0..200 {
            let mut asked = self.command(None, &format!("{programs}/pg_isready"));
            asked.args(["-h", "127.0.0.1", "-p", &port.to_string()]);
            if asked.status().is_ok_and(|status| status.success()) {
                break;
            }
            std::thread::sleep(Duration::from_millis(100));
        }
        server
    }

    /// MariaDB, with further settings (`--ssl-cert=...`).
    pub(crate) fn mariadb(&self, settings: &[String]) -> Server {
        let ((folder, inside), port) = (self.folder_of("mysql"), free_port());
        let data = format!("--datadir={}", inside.join("data").display());
        let mut made = self.command(None, "mariadb-install-db");
        made.args(["--no-defaults", "--user=mysql", &data]);
        made.arg("--auth-root-authentication-method=normal");
        assert!(made.status().is_ok_and(|status| status.success()), "mariadb-install-db");
        let mut command = self.command(Some("mysql"), "/usr/sbin/mariadbd");
        command.args(["--no-defaults", &data]).args(of_mysql(&inside, port)).args(settings);
        begun(command, port, folder)
    }

    /// MySQL.
    pub(crate) fn mysql(&self) -> Server {
        let ((folder, inside), port) = (self.folder_of("mysql"), free_port());
        let data = format!("--datadir={}", inside.join("data").display());
        let mut made = self.command(None, "mysqld");
        made.args(["--no-defaults", "--initialize-insecure", "--user=mysql", &data]);
        assert!(made.status().is_ok_and(|status| status.success()), "mysqld --initialize-insecure");
        let mut command = self.command(None, "mysqld");
        command.args(["--no-defaults", "--mysqlx=OFF", "--user=mysql", &data]);
        command.args(of_mysql(&inside, port));
        begun(command, port, folder)
    }
}

/// Settings that MySQL and MariaDB share.
fn of_mysql(folder: &Path, port: u16) -> [String; 6] {
    [
        format!("--port={port}"),
        "--bind-address=127.0.0.1".to_owned(),
        format!("--socket={}", folder.join("socket").display()),
        format!("--pid-file={}", folder.join("pid").display()),
        // A server that starts removes what is temporary in this folder: of another one, too, that
        // runs and needs it.
        format!("--tmpdir={}", folder.display()),
        "--innodb-flush-log-at-trx-commit=0".to_owned(),
    ]
}

fn free_port() -> u16 {
    TcpListener::bind("127.0.0.1:0")
        .and_then(|listener| listener.local_addr())
        .map(|address| address.port())
        .expect("a free port")
}

fn begun(mut command: Command, port: u16, folder: TempDir) -> Server {
    let server = Server { process: command.spawn().expect("a server"), port, _folder: folder };
    for _ in 0..200 {
        if std::net::TcpStream::connect(("127.0.0.1", port)).is_ok() {
            return server;
        }
        std::thread::sleep(Duration::from_millis(100));
    }
    panic!("no server answers on port {port}");
}

/// PostgreSQL of the machine's own Debian package.
pub(crate) fn postgresql(settings: &[String]) -> Server {
    Installed::HERE.postgresql(settings)
}

/// MariaDB of the machine's own Debian package.
pub(crate) fn mariadb(settings: &[String]) -> Server {
    Installed::HERE.mariadb(settings)
}

/// MySQL of Debian's next release; `None` where that cannot be had.
pub(crate) fn mysql() -> Option<Server> {
    Installed::of_suite("sid").map(|installed| installed.mysql())
}
