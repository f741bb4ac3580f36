//! The whole house in one file, in honest hands and in others.

#![allow(clippy::unwrap_used, reason = "a test that cannot go on fails")]

use std::io::{Cursor, Write};

use keen_formats::{HouseError, read_house, write_house};
use proptest::prelude::*;
use sha2::{Digest, Sha256};
use zip::write::SimpleFileOptions;
use zip::{CompressionMethod, ZipWriter};

fn house(shelf: &[u8]) -> Vec<u8> {
    let mut out = Cursor::new(Vec::new());
    let drinks = [
        ("Lime / \\ .. ade".to_owned(), "{}".to_owned()),
        ("Лимонад".to_owned(), "{ }".to_owned()),
    ];
    write_house(&mut out, "2030-06-21T12:00:00Z", shelf, drinks).unwrap();
    out.into_inner()
}

fn read(bytes: &[u8]) -> Result<Vec<u8>, HouseError> {
    let mut shelf = Vec::new();
    read_house(Cursor::new(bytes), &mut shelf)?;
    Ok(shelf)
}

/// An archive of any parts, with a manifest of any text.
fn forged(parts: &[(&str, &[u8])], manifest: &str) -> Vec<u8> {
    let mut zip = ZipWriter::new(Cursor::new(Vec::new()));
    let options = SimpleFileOptions::default().compression_method(CompressionMethod::Deflated);
    for (name, bytes) in parts {
        zip.start_file(*name, options).unwrap();
        zip.write_all(bytes).unwrap();
    }
    zip.start_file("manifest.json", options).unwrap();
    zip.write_all(manifest.as_bytes()).unwrap();
    zip.finish().unwrap().into_inner()
}

fn manifest(version: u32, parts: &[(&str, u64, &[u8])]) -> String {
    let parts: Vec<_> = parts
        .iter()
        .map(|(name, bytes, content)| {
            let sum: String = Sha256::digest(content).iter().map(|b| format!("{b:02x}")).collect();
            serde_json::json!({ "name": name, "bytes": bytes, "sha256": sum })
        })
        .collect();
    serde_json::json!({ "format": "keen-pitcher/house", "version": version, "made_at": "2030", "parts": parts }).to_string()
}

#[test]
fn what_was_put_in_comes_out() {
    let shelf: Vec<u8> = (0..300_000_u32).flat_map(u32::to_le_bytes).collect();
    let bytes = house(&shelf);
    assert!(bytes.len() < shelf.len());
    assert_eq!(read(&bytes).unwrap(), shelf);
    let made = read_house(Cursor::new(&bytes), std::io::sink()).unwrap();
    let names: Vec<&str> = made.parts.iter().map(|p| p.name.as_str()).collect();
    assert_eq!(
        names,
        ["shelf.db", "drinks/00001-lime--------ade.json", "drinks/00002-Лимонад.json"]
    );
}

/// Wherever it was cut off or changed, it is refused, and the part is named where it can be.
#[test]
fn a_damaged_archive_is_refused_as_a_whole() {
    let bytes = house(&[7; 50_000]);
    for at in (0..bytes.len()).step_by(41) {
        assert!(read(&bytes[..at]).is_err(), "cut off at {at}");
        let mut changed = bytes.clone();
        changed[at] ^= 0x55;
        // What isn't looked at (a time, a comment) may be anything; what comes out is never something else.
        if let Ok(shelf) = read(&changed) {
            assert_eq!(shelf, [7; 50_000], "changed at {at}");
        }
    }
    let told = forged(&[("shelf.db", b"abc")], &manifest(1, &[("shelf.db", 3, b"abd")]));
    let error = read(&told).unwrap_err();
    assert!(matches!(&error, HouseError::Damaged { part, .. } if part == "shelf.db"), "{error}");
}

#[test]
fn a_hostile_archive_does_nothing() {
    let good = manifest(1, &[("shelf.db", 3, b"abc")]);
    assert!(read(&forged(&[("shelf.db", b"abc")], &good)).is_ok());
    // A way out of its folder, and things that nobody asked for.
    for odd in
        ["../../etc/passwd", "/etc/passwd", "..\\up.exe", "drinks/../../x", "a\u{0}b", "shelf.db/"]
    {
        let error = read(&forged(&[("shelf.db", b"abc"), (odd, b"x")], &good)).unwrap_err();
        assert!(error.to_string().ends_with('.'), "{error}");
    }
    // It names a way out itself: nothing is ever unpacked there.
    let named = manifest(1, &[("shelf.db", 3, b"abc"), ("../../x", 1, b"x")]);
    assert_eq!(read(&forged(&[("shelf.db", b"abc"), ("../../x", b"x")], &named)).unwrap(), b"abc");
    assert!(!std::path::Path::new("../../x").exists());
    // A bomb says that it is small, or says how large it is.
    let bomb = vec![0; 40_000_000];
    let packed = forged(&[("shelf.db", &bomb)], &manifest(1, &[("shelf.db", 1000, &bomb)]));
    assert!(packed.len() < 100_000);
    let mut out = Vec::new();
    assert!(read_house(Cursor::new(&packed), &mut out).is_err());
    assert!(out.len() <= 1001, "{} bytes were unpacked", out.len());
    let huge = manifest(1, &[("shelf.db", u64::MAX, b"abc")]);
    assert!(
        read(&forged(&[("shelf.db", b"abc")], &huge))
            .unwrap_err()
            .to_string()
            .contains("too large")
    );
    // A part twice, a part too few, none at all.
    assert!(read(&forged(&[("shelf.db", b"abc"), ("drinks/a.json", b"x")], &good)).is_err());
    assert!(read(&forged(&[], &good)).is_err());
    assert!(read(&forged(&[("shelf.db", b"abc")], &manifest(1, &[]))).is_err());
    // From another program, from a newer one, from none.
    assert!(matches!(
        read(&forged(&[("shelf.db", b"abc")], &manifest(9, &[]))),
        Err(HouseError::TooNew(9))
    ));
    for odd in [
        "",
        "{}",
        "[]",
        "{\"format\":\"x\",\"version\":1}",
        "{\"format\":\"keen-pitcher/house\",\"version\":1,\"parts\":[]}",
    ] {
        assert!(read(&forged(&[("shelf.db", b"abc")], odd)).is_err(), "{odd}");
    }
    assert!(matches!(read(b"PK no archive"), Err(HouseError::NoArchive(_))));
}

/// A disk that takes no more in the middle of it.
#[test]
fn a_full_disk_is_told_as_such() {
    struct Full(usize);
    impl Write for Full {
        fn write(&mut self, bytes: &[u8]) -> std::io::Result<usize> {
            if self.0 < bytes.len() {
                return Err(std::io::ErrorKind::StorageFull.into());
            }
            self.0 -= bytes.len();
            Ok(bytes.len())
        }
        fn flush(&mut self) -> std::io::Result<()> {
            Ok(())
        }
    }
    let bytes = house(&[7; 200_000]);
    let error = read_house(Cursor::new(&bytes), Full(70_000)).unwrap_err();
    assert!(matches!(error, HouseError::Io(_)), "{error}");
}

proptest! {
    #[test]
    fn any_bytes_are_read_or_refused(bytes in proptest::collection::vec(any::<u8>(), 0..3000)) {
        prop_assert!(read(&bytes).is_err());
    }

    #[test]
    fn any_shelf_comes_back(shelf in proptest::collection::vec(any::<u8>(), 0..5000)) {
        prop_assert_eq!(read(&house(&shelf)).unwrap(), shelf);
    }
}
