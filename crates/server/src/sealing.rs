//! The glasses of a blind tasting in a backup.
//!
//! A backup holds everything, also a tasting that is still blind. Its codes and orders would tell whoever opens the
//! file what is in each glass. So they are encrypted there with a key that never leaves the data folder: restoring
//! on this computer brings them back, and nobody reads them out of the file. Restored elsewhere without that key,
//! the answers are there and the glasses can't be revealed, which is said when the tasting is opened.

use std::fs;
use std::io::{self, Write};
use std::path::Path;

use anyhow::{Context, Result};
use chacha20poly1305::aead::{Aead, KeyInit};
use chacha20poly1305::{Key, XChaCha20Poly1305, XNonce};
use keen_formats::Format;
use keen_store::{Store, StoreError, unfinished};
use parking_lot::Mutex;
use rand::Rng;
use serde_json::{Map, Value};

use crate::api::{ReadTasting, SEALED, TASTING};

/// The file in the data folder that holds the key.
const KEY_FILE: &str = "sealing.key";
const KEY: usize = 32;
/// Chosen at random for each tasting and each backup.
const NONCE: usize = 24;
/// What tells which glass is which.
const SECRET: [&str; 2] = ["seed", "dealt"];

/// This data folder's key, if it has one.
fn key_in(folder: &Path) -> Option<Key> {
    let bytes = fs::read(folder.join(KEY_FILE)).ok()?;
    Key::try_from(&bytes[..]).ok()
}

/// This data folder's key; one is made the first time.
fn key_of(folder: &Path) -> io::Result<Key> {
    // Two backups at once mustn't make a key each: what the first one sealed would stay so.
    static MAKING: Mutex<()> = Mutex::new(());
    let _alone = MAKING.lock();
    if let Some(key) = key_in(folder) {
        return Ok(key);
    }
    let mut bytes = [0; KEY];
    rand::rng().fill_bytes(&mut bytes);
    let mut file = unfinished(folder)?;
    file.write_all(&bytes)?;
    file.as_file().sync_all()?;
    file.persist(folder.join(KEY_FILE)).map_err(|error| error.error)?;
    Ok(bytes.into())
}

fn fields_of<'a>(whole: &'a mut Value, format: &Format) -> Option<&'a mut Map<String, Value>> {
    whole.get_mut(format.field)?.as_object_mut()
}

/// A tasting's text without what tells its glasses.
fn sealed(body: &str, cipher: &XChaCha20Poly1305) -> Option<String> {
    let mut whole: Value = serde_json::from_str(body).ok()?;
    let fields = fields_of(&mut whole, &TASTING)?;
    let secret: Map<String, Value> =
        SECRET.into_iter().filter_map(|name| fields.remove_entry(name)).collect();
    let mut nonce = [0; NONCE];
    rand::rng().fill_bytes(&mut nonce);
    let text = serde_json::to_vec(&secret).ok()?;
    let mut bytes = nonce.to_vec();
    bytes.extend(cipher.encrypt(&XNonce::from(nonce), &text[..]).ok()?);
    fields.insert(SEALED.into(), data_encoding::BASE64.encode(&bytes).into());
    Some(whole.to_string())
}

/// The text again as it was; none if it was sealed with another key.
fn opened(body: &str, cipher: &XChaCha20Poly1305) -> Option<String> {
    let mut whole: Value = serde_json::from_str(body).ok()?;
    let fields = fields_of(&mut whole, &TASTING)?;
    let bytes = data_encoding::BASE64.decode(fields.remove(SEALED)?.as_str()?.as_bytes()).ok()?;
    let (nonce, text) = bytes.split_at_checked(NONCE)?;
    let text = cipher.decrypt(&XNonce::try_from(nonce).ok()?, text).ok()?;
    let secret: Map<String, Value> = serde_json::from_slice(&text).ok()?;
    fields.extend(secret);
    Some(whole.to_string())
}

/// Encrypts what is still secret in a copy of the data file.
pub(crate) fn seal(copy: &Path, folder: &Path) -> Result<()> {
    let mut cipher = None;
    let mut failed = Ok(());
    Store::change_tastings_of(copy, |tasting| {
        let body = tasting.0.body.clone();
        let read = ReadTasting::of(tasting).ok()?;
        if failed.is_err() || !read.is_secret() {
            return None;
        }
        let made = match &mut cipher {
            Some(cipher) => cipher,
            none => match key_of(folder) {
                Ok(key) => none.insert(XChaCha20Poly1305::new(&key)),
                Err(error) => {
                    failed = Err(error);
                    return None;
                }
            },
        };
        sealed(&body, made)
    })?;
    failed.with_context(|| format!("{} can't be written", folder.join(KEY_FILE).display()))
}

/// Opens what a restored backup brought along and this folder's key fits.
pub(crate) fn open(store: &Store) -> Result<(), StoreError> {
    let Some(key) = key_in(&store.folder()) else { return Ok(()) };
    let cipher = XChaCha20Poly1305::new(&key);
    for id in store.tastings_with(SEALED)? {
        if let Some(body) = opened(&store.tasting(&id)?.0.body, &cipher) {
            store.keep_dealt(&id, &body, &[])?;
        }
    }
    Ok(())
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn what_is_sealed_is_opened_by_the_same_key_only() {
        let folder = tempfile::tempdir().unwrap();
        let mine = XChaCha20Poly1305::new(&key_of(folder.path()).unwrap());
        let again = XChaCha20Poly1305::new(&key_of(folder.path()).unwrap());
        let other = XChaCha20Poly1305::new(&Key::from([7; KEY]));
        let body = r#"{"format":"keen-pitcher/tasting","tasting":{"seed":20260703,"dealt":{"codes":["417"]},"blind":true}}"#;
        let hidden = sealed(body, &mine).unwrap();
        assert!(hidden.contains(SEALED));
        for secret in ["seed", "20260703", "dealt", "417"] {
            assert!(!hidden.contains(secret), "{hidden}");
        }
        assert_ne!(hidden, sealed(body, &mine).unwrap(), "each time with other numbers");
        let back = |cipher| opened(&hidden, cipher);
        let same = |text: &str| serde_json::from_str::<Value>(text).unwrap();
        assert_eq!(same(&back(&again).unwrap()), same(body));
        assert_eq!(back(&other), None);
        assert_eq!(opened(&hidden.replace("blind", "bline").replacen('A', "B", 1), &other), None);
    }
}
