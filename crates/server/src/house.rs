//! Everything in one file: saved, restored, and the backups that are kept.
//!
//! A backup is made each day, and whenever somebody asks for one. Seven of each kind stay. Which is newer is
//! what they say themselves, not their names: a clock that was wrong for a day, or a file that was renamed, must
//! not make the newest one look old. What can't be read is never counted among the seven, and never deleted.

use std::fs::{self, File};
use std::io::{BufReader, BufWriter, Read, Seek, SeekFrom};
use std::path::{Path, PathBuf};

use anyhow::{Context, Result};
use jiff::{Span, Timestamp};
use keen_formats::{HouseError, Manifest, made_at, read_house, rewrite_house, write_house};
use keen_store::{Store, StoreError, is_data_file, unfinished};
use serde::Serialize;
use utoipa::ToSchema;

use crate::sealing;

/// So many of each kind are kept.
const KEPT: usize = 7;
/// A damaged data file that a backup took the place of begins so.
const DAMAGED: &str = "keen-pitcher.damaged-";
/// What says that it was made later than that from now was made while the clock was wrong.
const AHEAD: i64 = 10;

/// Why a house can't be put back.
#[derive(Debug, thiserror::Error)]
pub(crate) enum NotPutBack {
    #[error(transparent)]
    House(#[from] HouseError),
    #[error(transparent)]
    Store(#[from] StoreError),
    #[error("{0}")]
    Io(#[from] std::io::Error),
}

/// Writes the whole house to a file. It is written beside it and takes its place when all of it is on the disk, so
/// that there is the old one or the new one, whatever happens.
pub(crate) fn save(store: &Store, to: &Path) -> Result<Manifest> {
    let folder = match to.parent() {
        Some(folder) if !folder.as_os_str().is_empty() => folder,
        _ => Path::new("."),
    };
    let told = || format!("the backup can't be written to {}", to.display());
    let shelf = unfinished(folder).with_context(told)?;
    store.copy_to(shelf.path())?;
    sealing::seal(shelf.path(), &store.folder())?;
    let mut drinks = Vec::new();
    let (_, all) = store.drinks().list("", 10_000)?;
    for kept in all {
        let versions = store.versions(&kept.id).unwrap_or_default();
        let text = crate::api::whole_file(&versions).unwrap_or(kept.body);
        drinks.push((kept.name, text));
    }
    let mut out = unfinished(folder).with_context(told)?;
    let now = jiff::Timestamp::now().to_string();
    let from = BufReader::new(File::open(shelf.path())?);
    let manifest =
        write_house(BufWriter::new(out.as_file_mut()), &now, from, drinks).with_context(told)?;
    out.as_file().sync_all().with_context(told)?;
    // What was written is read once more: a copy that can't be put back is none.
    out.as_file_mut().seek(SeekFrom::Start(0))?;
    read_house(BufReader::new(out.as_file()), std::io::sink()).with_context(told)?;
    out.persist(to).map_err(|error| error.error).with_context(told)?;
    if let Ok(folder) = File::open(folder) {
        let _ = folder.sync_all();
    }
    Ok(manifest)
}

/// Takes the data file out of a backup, or a data file as it is: what was set aside is one.
fn unpack(from: &Path, to: &mut File) -> Result<(), NotPutBack> {
    let mut file = BufReader::new(File::open(from)?);
    let mut head = Vec::new();
    file.by_ref().take(16).read_to_end(&mut head)?;
    file.seek(SeekFrom::Start(0))?;
    if is_data_file(&head) {
        std::io::copy(&mut file, to)?;
    } else {
        read_house(file, BufWriter::new(to))?;
    }
    Ok(())
}

/// Checks a backup, and puts it in the place of what is there; where that lies now is answered.
pub(crate) fn put_back(store: &Store, from: &Path) -> Result<PathBuf, NotPutBack> {
    let mut shelf = unfinished(&store.folder())?;
    unpack(from, shelf.as_file_mut())?;
    let aside = store.replace_with(shelf.path(), &Timestamp::now().to_string())?;
    sealing::open(store)?;
    Ok(aside)
}

/// Why a backup was made.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub(crate) enum BackupKind {
    /// One is made each day.
    Daily,
    /// Somebody asked for it.
    Manual,
    /// What was there before a backup was restored.
    SetAside,
}

/// A backup that is kept on this machine.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, ToSchema)]
pub(crate) struct BackupView {
    /// Its file's name.
    pub(crate) name: String,
    /// The size of the file, bytes.
    bytes: u64,
    kind: BackupKind,
    /// The time at which the file says it was made, RFC 3339; missing if it can't be read.
    #[schema(value_type = Option<String>)]
    made_at: Option<Timestamp>,
}

/// Where the daily copies lie.
pub(crate) fn folder(store: &Store) -> PathBuf {
    store.folder().join("backups")
}

fn kind_of(name: &str) -> Option<BackupKind> {
    let aside = name.starts_with("keen-pitcher.before-") || name.starts_with(DAMAGED);
    if aside && name.ends_with(".db") {
        return Some(BackupKind::SetAside);
    }
    let stamp = name.strip_prefix("keen-pitcher-")?.strip_suffix(".zip")?;
    // Those that were asked for bear the time of day as well.
    Some(if stamp.len() > "2030-06-21".len() { BackupKind::Manual } else { BackupKind::Daily })
}

/// The backups that are kept beside a data folder, the newest first; what can't be read is last.
pub(crate) fn kept(data: &Path) -> Vec<BackupView> {
    let view = |file: fs::DirEntry, aside: bool| {
        let name = file.file_name().into_string().ok()?;
        let kind = kind_of(&name).filter(|kind| (*kind == BackupKind::SetAside) == aside)?;
        let found = file.metadata().ok()?;
        let made_at = match kind {
            // Nobody restores that one; but it is there, with what is in it.
            BackupKind::SetAside if name.starts_with(DAMAGED) => None,
            BackupKind::SetAside => found.modified().ok().and_then(|at| at.try_into().ok()),
            _ => File::open(file.path())
                .ok()
                .and_then(|file| made_at(BufReader::new(file)).ok())
                .and_then(|at| at.parse().ok()),
        };
        Some(BackupView { name, bytes: found.len(), kind, made_at })
    };
    let files = |folder: &Path| fs::read_dir(folder).into_iter().flatten().flatten();
    let mut all: Vec<BackupView> = files(&data.join("backups"))
        .filter_map(|file| view(file, false))
        .chain(files(data).filter_map(|file| view(file, true)))
        .collect();
    all.sort_by(|a, b| (b.made_at, &b.name).cmp(&(a.made_at, &a.name)));
    all
}

/// Where one of them lies.
pub(crate) fn path_of(data: &Path, backup: &BackupView) -> PathBuf {
    match backup.kind {
        BackupKind::SetAside => data.join(&backup.name),
        _ => data.join("backups").join(&backup.name),
    }
}

/// What to do when the data file is damaged: restore the newest backup that can be read, here or there.
pub(crate) fn way_back(data: &Path) -> String {
    let good = kept(data).into_iter().find(|backup| backup.made_at.is_some());
    match good {
        Some(backup) => format!(
            "Restore the newest good backup, {}: open Backup in the window, or stop Keen Pitcher and run \
             `keen-pitcher restore {} --data {}`. The damaged file is kept.",
            backup.name,
            path_of(data, &backup).display(),
            data.display()
        ),
        None => "There is no backup in its folder. If you saved one elsewhere, open Backup in the window and \
                 restore it from there; the damaged file is kept."
            .into(),
    }
}

/// Wipes a taster out of the backups and the copies that were set aside; the names of those that still hold them,
/// since they can't be read or written.
pub(crate) fn wipe_out(data: &Path, taster: &str, gone: &str) -> Vec<String> {
    let copies = kept(data).into_iter();
    let failed = copies.filter(|backup| match wipe_out_of(data, backup, taster, gone) {
        Ok(()) => false,
        Err(error) => {
            tracing::warn!(%error, backup.name, "a deleted taster is still in a backup");
            true
        }
    });
    failed.map(|backup| backup.name).collect()
}

fn wipe_out_of(data: &Path, backup: &BackupView, taster: &str, gone: &str) -> Result<()> {
    let path = path_of(data, backup);
    if backup.kind == BackupKind::SetAside {
        Store::wipe_out_of(&path, taster, gone)?;
        return Ok(());
    }
    let folder = path.parent().unwrap_or(data);
    let mut shelf = unfinished(folder)?;
    read_house(BufReader::new(File::open(&path)?), BufWriter::new(shelf.as_file_mut()))?;
    if !Store::wipe_out_of(shelf.path(), taster, gone)? {
        return Ok(());
    }
    let mut out = unfinished(folder)?;
    let from = BufReader::new(File::open(&path)?);
    let shelf = BufReader::new(File::open(shelf.path())?);
    rewrite_house(from, BufWriter::new(out.as_file_mut()), shelf)?;
    out.as_file().sync_all()?;
    out.persist(&path)?;
    Ok(())
}

/// Deletes one of them.
pub(crate) fn delete(data: &Path, name: &str) -> Result<(), StoreError> {
    let backup = kept(data).into_iter().find(|backup| backup.name == name);
    let path = path_of(data, &backup.ok_or(StoreError::NotFound)?);
    fs::remove_file(&path).map_err(|source| StoreError::File { path, source })
}

/// Those that may go: beyond the newest of their kind. What the clock calls future is left alone, and doesn't
/// crowd out the others.
fn beyond(all: &[BackupView], kind: BackupKind, now: Timestamp) -> Vec<&BackupView> {
    let soon = now + Span::new().minutes(AHEAD);
    let of_kind = all.iter().filter(|it| it.kind == kind);
    of_kind.filter(|it| it.made_at.is_some_and(|at| at <= soon)).skip(KEPT).collect()
}

/// Makes today's backup, if there is no good one yet, or one that is asked for, and deletes the oldest.
pub(crate) fn daily(store: &Store, asked: bool) -> Result<Option<String>> {
    let data = store.folder();
    let folder = folder(store);
    let today = jiff::Zoned::now();
    let day = format!("keen-pitcher-{}", today.strftime("%Y-%m-%d"));
    let name = if asked {
        format!("{day}-{}.zip", today.strftime("%H%M%S"))
    } else {
        format!("{day}.zip")
    };
    let there = |it: &BackupView| it.name == name && it.made_at.is_some();
    if !asked && kept(&data).iter().any(there) {
        return Ok(None);
    }
    make_folder(&folder)?;
    save(store, &folder.join(&name))?;
    let kind = if asked { BackupKind::Manual } else { BackupKind::Daily };
    for old in beyond(&kept(&data), kind, today.timestamp()) {
        if let Err(error) = fs::remove_file(path_of(&data, old)) {
            tracing::warn!(%error, old.name, "an old backup can't be removed");
        }
    }
    Ok(Some(name))
}

#[cfg(unix)]
fn make_folder(folder: &Path) -> std::io::Result<()> {
    use std::os::unix::fs::DirBuilderExt;
    fs::DirBuilder::new().recursive(true).mode(0o700).create(folder)
}

#[cfg(not(unix))]
fn make_folder(folder: &Path) -> std::io::Result<()> {
    fs::create_dir_all(folder)
}

#[cfg(test)]
mod tests {
    use super::*;

    fn backup(name: &str, made_at: Option<&str>) -> BackupView {
        BackupView {
            name: name.into(),
            bytes: 1,
            kind: kind_of(name).unwrap(),
            made_at: made_at.map(|at| at.parse().unwrap()),
        }
    }

    #[test]
    fn the_newest_seven_of_each_kind_stay_whatever_the_clock_said() {
        let now: Timestamp = "2030-06-21T12:00:00Z".parse().unwrap();
        let mut all: Vec<BackupView> = (10..20)
            .rev()
            .map(|day| {
                let at = format!("2030-06-{day}T08:00:00Z");
                backup(&format!("keen-pitcher-2030-06-{day}.zip"), Some(&at))
            })
            .collect();
        // A clock that was a year ahead, a file that is broken, and eight that were asked for today.
        all.insert(0, backup("keen-pitcher-2031-06-20.zip", Some("2031-06-20T08:00:00Z")));
        for minute in (10..18).rev() {
            let at = format!("2030-06-21T11:{minute}:00Z");
            all.insert(1, backup(&format!("keen-pitcher-2030-06-21-11{minute}00.zip"), Some(&at)));
        }
        all.push(backup("keen-pitcher-2030-06-05.zip", None));
        let gone = |kind| -> Vec<String> {
            beyond(&all, kind, now).into_iter().map(|it| it.name.clone()).collect()
        };
        assert_eq!(
            gone(BackupKind::Daily),
            ["12", "11", "10"].map(|day| format!("keen-pitcher-2030-06-{day}.zip"))
        );
        assert_eq!(gone(BackupKind::Manual).len(), 1);
        assert_eq!(gone(BackupKind::SetAside), [""; 0]);
        assert_eq!(kind_of("keen-pitcher.before-20300621T100000.db"), Some(BackupKind::SetAside));
        assert_eq!(kind_of("notes.zip"), None);
    }
}
