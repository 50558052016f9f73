//! Files on the disk: reading regular ones up to a size, writing whole ones together.

use std::fs::{File, Metadata};
use std::io::{self, ErrorKind, Read, Write};
use std::path::{Path, PathBuf};

use crate::ProjectError;

/// Beginning of the names of files that wait beside their place until all are written.
const WAITING: &str = ".sprachbund-";

/// Largest of the program's own files that is read: configuration, known findings, record of what
/// was emitted.
const LARGEST_OF_OURS: u64 = 64 * 1024 * 1024;

/// Why a file was not read.
#[derive(Debug, thiserror::Error)]
pub enum Unreadable {
    #[error("{0}")]
    Disk(#[from] io::Error),
    #[error("it is {0}, not a regular file")]
    Special(&'static str),
    #[error("it has more than the {0} bytes that are read")]
    TooLarge(u64),
}

/// A regular file that is open. Pipes, devices and sockets are not opened at all: they may never
/// end, or never begin.
pub fn open(path: &Path) -> Result<(File, Metadata), Unreadable> {
    let before = std::fs::metadata(path)?;
    if let Some(kind) = special(&before) {
        return Err(Unreadable::Special(kind));
    }
    Ok((File::open(path)?, before))
}

/// The bytes of a regular file, if there are not more than `most`.
pub fn read(path: &Path, most: u64) -> Result<Vec<u8>, Unreadable> {
    let (file, metadata) = open(path)?;
    if metadata.len() > most {
        return Err(Unreadable::TooLarge(most));
    }
    bounded(file, most)
}

/// What a reader gives, if that is not more than `most` bytes: what grows while it is read ends
/// there.
pub fn bounded(reader: impl Read, most: u64) -> Result<Vec<u8>, Unreadable> {
    let mut bytes = Vec::new();
    reader.take(most.saturating_add(1)).read_to_end(&mut bytes)?;
    if bytes.len() as u64 > most { Err(Unreadable::TooLarge(most)) } else { Ok(bytes) }
}

/// The text of one of the program's own files.
pub fn read_own(path: &Path) -> Result<String, Unreadable> {
    let bytes = read(path, LARGEST_OF_OURS)?;
    Ok(String::from_utf8(bytes).map_err(|error| io::Error::new(ErrorKind::InvalidData, error))?)
}

/// What something is that is neither a file nor a folder.
#[cfg(unix)]
fn special(metadata: &Metadata) -> Option<&'static str> {
    use std::os::unix::fs::FileTypeExt;
    let kind = metadata.file_type();
    match () {
        () if kind.is_fifo() => Some("a pipe"),
        () if kind.is_socket() => Some("a socket"),
        () if kind.is_block_device() || kind.is_char_device() => Some("a device"),
        () if kind.is_dir() => Some("a folder"),
        () => None,
    }
}

#[cfg(not(unix))]
fn special(metadata: &Metadata) -> Option<&'static str> {
    metadata.is_dir().then_some("a folder")
}

/// A folder that only this run writes into; others wait. Given back when it is dropped, also when
/// the process is killed.
pub struct Writing {
    folder: PathBuf,
    _lock: Option<File>,
}

impl Writing {
    /// Waits until nobody else writes into the folder, and clears away what a run left there that
    /// was killed.
    pub fn into(folder: &Path) -> Result<Self, ProjectError> {
        let failed = |error: io::Error| {
            ProjectError::Disk(format!("{}: {error}; nothing was written", folder.display()))
        };
        std::fs::create_dir_all(folder).map_err(failed)?;
        // Some systems open no folders: there two runs at once may leave a mix.
        let lock = File::open(folder).ok().filter(|handle| handle.lock().is_ok());
        Ok(Writing { folder: folder.to_owned(), _lock: lock })
    }

    /// Removes what waits in the folder of one of the files: it was left behind, since nobody else
    /// writes now.
    fn sweep(&self, inner: &Path) {
        let Ok(entries) = std::fs::read_dir(self.folder.join(inner)) else { return };
        for entry in entries.flatten() {
            let name = entry.file_name();
            let left = name.to_str().and_then(|name| name.strip_prefix(WAITING));
            // Six letters and digits are what a waiting file has behind that; the record of what
            // was emitted has a suffix.
            let waiting = left.is_some_and(|rest| {
                rest.len() == 6 && rest.bytes().all(|byte| byte.is_ascii_alphanumeric())
            });
            if waiting && entry.file_type().is_ok_and(|kind| kind.is_file()) {
                let _ = std::fs::remove_file(entry.path());
            }
        }
    }

    /// The path of a file in the folder.
    pub fn path(&self, relative: &str) -> PathBuf {
        self.folder.join(relative)
    }

    /// Writes files (by their paths in the folder) all together.
    pub fn write<'f>(
        &self,
        files: impl Iterator<Item = (&'f str, &'f str)>,
    ) -> Result<(), ProjectError> {
        let files: Vec<(PathBuf, &str)> =
            files.map(|(path, text)| (self.folder.join(path), text)).collect();
        let mut folders: Vec<&Path> = files.iter().filter_map(|(path, _)| path.parent()).collect();
        folders.sort();
        folders.dedup();
        folders.into_iter().for_each(|folder| {
            self.sweep(folder.strip_prefix(&self.folder).unwrap_or(Path::new("")))
        });
        write_together(files.iter().map(|(path, text)| (path.as_path(), *text)))
    }
}

/// Writes everything beside its place first, then moves it there, so that a full disk leaves the
/// folder as it was.
pub fn write_together<'f>(
    files: impl Iterator<Item = (&'f Path, &'f str)>,
) -> Result<(), ProjectError> {
    let waiting = files.map(|(path, text)| Ok((beside(path, text)?, path)));
    for (file, path) in waiting.collect::<Result<Vec<_>, ProjectError>>()? {
        file.persist(path)
            .map_err(|error| ProjectError::Disk(format!("{}: {}", path.display(), error.error)))?;
    }
    Ok(())
}

/// Writes one file so that it is there whole or not at all.
pub fn write_atomically(path: &Path, text: &str) -> Result<(), ProjectError> {
    let failed = |error: io::Error| ProjectError::Disk(format!("{}: {error}", path.display()));
    // A device or a pipe that was named is written to, never replaced; a link leads to the file
    // that is.
    if std::fs::metadata(path).is_ok_and(|known| !known.is_file()) {
        return std::fs::write(path, text).map_err(failed);
    }
    let path = &std::fs::canonicalize(path).unwrap_or_else(|_| path.to_owned());
    beside(path, text)?.persist(path).map_err(|error| failed(error.error))?;
    Ok(())
}

fn beside(path: &Path, text: &str) -> Result<tempfile::NamedTempFile, ProjectError> {
    let fault = |error: io::Error| {
        ProjectError::Disk(format!("{}: {error}; nothing was written", path.display()))
    };
    let folder =
        path.parent().filter(|folder| !folder.as_os_str().is_empty()).unwrap_or(Path::new("."));
    std::fs::create_dir_all(folder).map_err(fault)?;
    let mut file = usual_rights(tempfile::Builder::new().prefix(WAITING))
        .tempfile_in(folder)
        .map_err(fault)?;
    file.write_all(text.as_bytes()).map_err(fault)?;
    file.flush().map_err(fault)?;
    // What replaces a file has its rights.
    if let Ok(known) = std::fs::metadata(path) {
        std::fs::set_permissions(file.path(), known.permissions()).map_err(fault)?;
    }
    Ok(file)
}

/// A new file has the rights that the process gives to new files (its umask).
#[cfg(unix)]
fn usual_rights<'b, 'p, 's>(
    builder: &'b mut tempfile::Builder<'p, 's>,
) -> &'b mut tempfile::Builder<'p, 's> {
    use std::os::unix::fs::PermissionsExt;
    builder.permissions(std::fs::Permissions::from_mode(0o666))
}

#[cfg(not(unix))]
fn usual_rights<'b, 'p, 's>(
    builder: &'b mut tempfile::Builder<'p, 's>,
) -> &'b mut tempfile::Builder<'p, 's> {
    builder
}
