//! A ticket with its files as one container: a tar with the rows in `record.json` and each file under `files/`, named by its
//! id. Neither on the way out nor on the way in is more than one file of it in memory.

use std::collections::HashMap;
use std::fs::File;
use std::io::{self, Read, Seek, SeekFrom};

use axum::body::Bytes;
use tar::{Archive, EntryType, Header};
use time::OffsetDateTime;
use uuid::Uuid;

use crate::attachment::{LARGEST_MB as LARGEST_FILE_MB, MOST as MOST_FILES};
use crate::error::ApiError;

/// Where the rows stand in it.
pub const ROWS: &str = "record.json";
/// Where the files do.
const FILES: &str = "files/";
/// So ends a tar.
pub const END: Bytes = Bytes::from_static(&[0; 2 * BLOCK]);
const BLOCK: usize = 512;
/// Where a tar says that it is one.
const MAGIC: (u64, &[u8]) = (257, b"ustar");

/// The name of a file in it.
#[must_use]
pub fn name_of(id: Uuid) -> String {
    format!("{FILES}{id}")
}

/// A file as it stands in a tar, with what goes before and after it.
///
/// # Errors
/// A name that is too long.
pub fn entry(name: &str, content: &[u8], written: OffsetDateTime) -> io::Result<Bytes> {
    let mut header = Header::new_ustar();
    header.set_path(name)?;
    header.set_size(content.len() as u64);
    header.set_mode(0o644);
    header.set_mtime(u64::try_from(written.unix_timestamp()).unwrap_or(0));
    header.set_cksum();
    let mut whole = Vec::with_capacity(content.len() + 2 * BLOCK);
    whole.extend_from_slice(header.as_bytes());
    whole.extend_from_slice(content);
    whole.resize(whole.len().next_multiple_of(BLOCK), 0);
    Ok(whole.into())
}

/// The files of a container that came in, or pieces of a file that is put together.
#[derive(Debug)]
pub struct Pieces {
    file: File,
    at: HashMap<Uuid, (u64, u64)>,
}

impl Pieces {
    /// None yet, put together in a file.
    #[must_use]
    pub fn in_file(file: File) -> Self {
        Self { file, at: HashMap::new() }
    }

    /// One of them.
    ///
    /// # Errors
    /// When it cannot be read.
    pub fn read(&mut self, id: Uuid) -> io::Result<Option<Vec<u8>>> {
        let Some((from, long)) = self.at.get(&id).copied() else { return Ok(None) };
        self.file.seek(SeekFrom::Start(from))?;
        let mut content = Vec::new();
        (&self.file).take(long).read_to_end(&mut content)?;
        Ok((content.len() as u64 == long).then_some(content))
    }

    /// Puts one by, at the end of the file.
    ///
    /// # Errors
    /// When the disk is full.
    pub fn put(&mut self, id: Uuid, content: &[u8]) -> io::Result<()> {
        use io::Write;
        let from = self.file.seek(SeekFrom::End(0))?;
        self.file.write_all(content)?;
        self.at.insert(id, (from, content.len() as u64));
        Ok(())
    }
}

/// Whether a file is a tar.
///
/// # Errors
/// When it cannot be read.
pub fn is_one(file: &mut File) -> io::Result<bool> {
    let mut said = [0; MAGIC.1.len()];
    file.seek(SeekFrom::Start(MAGIC.0))?;
    let read = file.take(said.len() as u64).read(&mut said)?;
    file.rewind()?;
    Ok(said.get(..read) == Some(MAGIC.1))
}

/// The rows of a container, as they stand in it, and where its files lie.
///
/// # Errors
/// 422 for what is no container of ours.
pub fn open(mut file: File, most_rows: u64) -> Result<(Vec<u8>, Pieces), ApiError> {
    let wrong = |why: &str| ApiError::field("file", why.to_owned());
    let broken = |_: io::Error| wrong("this container broke off or is damaged");
    file.rewind().map_err(broken)?;
    let mut archive = Archive::new(&file);
    let (mut rows, mut at) = (None, HashMap::new());
    for found in archive.entries_with_seek().map_err(broken)? {
        let found = found.map_err(broken)?;
        let name = found.path().map_err(broken)?.to_string_lossy().into_owned();
        let size = found.size();
        let plain = found.header().entry_type() == EntryType::Regular;
        if plain && name == ROWS && rows.is_none() && size <= most_rows {
            let mut text = Vec::new();
            found.take(most_rows).read_to_end(&mut text).map_err(broken)?;
            if text.len() as u64 != size {
                return Err(broken(io::ErrorKind::UnexpectedEof.into()));
            }
            rows = Some(text);
            continue;
        }
        let id = name.strip_prefix(FILES).and_then(|id| id.parse::<Uuid>().ok());
        match id {
            Some(id) if plain && size <= LARGEST_FILE_MB as u64 * 1024 * 1024 => {
                at.insert(id, (found.raw_file_position(), size));
            }
            _ => {
                let name: String = name.chars().take(60).collect();
                return Err(wrong(&format!("'{name}' belongs into no record of a ticket, or is too large")));
            }
        }
        if at.len() > usize::from(MOST_FILES) {
            return Err(wrong(&format!("a ticket keeps at most {MOST_FILES} files")));
        }
    }
    let rows = rows.ok_or_else(|| wrong("there is no record.json in this container"))?;
    Ok((rows, Pieces { file, at }))
}

#[cfg(test)]
mod tests {
    use std::io::Write;

    use super::*;

    fn file(bytes: &[&[u8]]) -> File {
        let mut file = tempfile::tempfile().unwrap();
        bytes.iter().for_each(|b| file.write_all(b).unwrap());
        file
    }

    fn said(parts: &[(&str, &[u8])]) -> String {
        let now = OffsetDateTime::UNIX_EPOCH;
        let all: Vec<Bytes> = parts.iter().map(|(n, c)| entry(n, c, now).unwrap()).chain([END]).collect();
        let all: Vec<&[u8]> = all.iter().map(|b| &b[..]).collect();
        open(file(&all), 1000).err().map(|e| e.to_string()).unwrap_or_default()
    }

    #[test]
    fn what_was_put_in_comes_out() {
        let now = OffsetDateTime::now_utc();
        let (id, other) = (Uuid::from_u128(1), Uuid::from_u128(2));
        let odd = vec![7; 1025];
        let rows = entry(ROWS, b"{}", now).unwrap();
        let mut whole = file(&[&rows, &entry(&name_of(id), &odd, now).unwrap(), &END]);
        assert!(is_one(&mut whole).unwrap());
        let (rows, mut files) = open(whole, 1000).unwrap();
        assert_eq!((rows.as_slice(), files.at.len()), (&b"{}"[..], 1));
        assert_eq!(files.read(id).unwrap(), Some(odd));
        assert_eq!(files.read(other).unwrap(), None);
        let mut put = Pieces::in_file(tempfile::tempfile().unwrap());
        put.put(other, b"later").unwrap();
        put.put(id, b"").unwrap();
        assert_eq!(put.read(other).unwrap(), Some(b"later".to_vec()));
        assert!(!is_one(&mut file(&[b"{\"format\": \"restless-owl ticket\"}"])).unwrap());
    }

    #[test]
    fn what_does_not_belong_there_is_refused_in_words() {
        assert_eq!(said(&[(ROWS, b"{}")]), "");
        assert!(said(&[("files/1", b"x")]).contains("'files/1' belongs into no record"));
        assert!(said(&[("etc/passwd", b"x")]).contains("'etc/passwd' belongs"));
        assert!(said(&[]).contains("no record.json"));
        assert!(said(&[(ROWS, &[b' '; 1001])]).contains("too large"));
        let now = OffsetDateTime::UNIX_EPOCH;
        let cut = entry(ROWS, &[b' '; 900], now).unwrap();
        assert!(open(file(&[&cut[..700]]), 1000).unwrap_err().to_string().contains("broke off"));
    }
}
