//! Where the bytes of photographs and sheets lie: in their rows, or in a store of objects beside the database, each under the
//! sum of its bytes. What lies there is never changed; what no row refers to any more is swept out a day later.

use std::sync::Arc;

use anyhow::{Context, bail};
use futures_util::TryStreamExt;
use object_store::local::LocalFileSystem;
use object_store::path::Path;
use object_store::{ObjectMeta, ObjectStore, ObjectStoreExt};
use sha2::{Digest, Sha256};
use url::Url;

use crate::error::ApiError;

/// How long an object may lie that no row refers to: whoever brings it has not written its row yet.
const YOUNG: time::Duration = time::Duration::days(1);

/// The sum of a file's bytes, its name in the store.
pub type Sum = [u8; 32];

/// The sum of a file's bytes.
#[must_use]
pub fn sum(content: &[u8]) -> Sum {
    Sha256::digest(content).into()
}

/// A sum as it is written in names.
#[must_use]
pub fn name(sum: &[u8]) -> String {
    hex::encode(sum)
}

/// Where the bytes of pictures lie; nowhere but in their rows where no store is set.
#[derive(Debug, Clone, Default)]
pub struct PictureStore(Option<Arc<dyn ObjectStore>>);

impl PictureStore {
    /// The store at an address: `file:///srv/owl/pictures`, a folder that is there.
    ///
    /// # Errors
    /// In words, for an address that leads to none.
    pub fn at(address: &Url) -> anyhow::Result<Self> {
        if address.scheme() != "file" {
            bail!(
                "'{address}' is no store that this program knows; a folder is written file:///srv/owl/pictures"
            );
        }
        let Ok(folder) = address.to_file_path() else { bail!("'{address}' is no folder of this machine") };
        let store = LocalFileSystem::new_with_prefix(&folder)
            .with_context(|| format!("there is no folder {}", folder.display()))?;
        // What is acknowledged is on the disk.
        Ok(Self::of(store.with_fsync(true)))
    }

    /// A store that is reached already.
    #[must_use]
    pub fn of(store: impl ObjectStore) -> Self {
        Self(Some(Arc::new(store)))
    }

    /// Whether there is one.
    #[must_use]
    pub const fn is_set(&self) -> bool {
        self.0.is_some()
    }

    /// Puts bytes by, before their row is written. What the row has to hold itself: nothing where a store keeps them.
    ///
    /// # Errors
    /// [`ApiError::PictureStore`] when the store does not take them.
    pub async fn keep<'a>(&self, sum: &Sum, content: &'a [u8]) -> Result<Option<&'a [u8]>, ApiError> {
        let Some(store) = &self.0 else { return Ok(Some(content)) };
        store.put(&place(sum), content.to_vec().into()).await.map_err(away)?;
        Ok(None)
    }

    /// Bytes that no row holds; they are what they were.
    ///
    /// # Errors
    /// [`ApiError::PictureStore`] when the store does not give them, or others.
    pub async fn read(&self, sum: &[u8]) -> Result<Vec<u8>, ApiError> {
        let Some(store) = &self.0 else {
            let why = "the picture lies in a store, and this server knows none (OWL_PICTURE_STORE)";
            return Err(ApiError::Internal(why.to_owned()));
        };
        let got = store.get(&place(sum)).await.map_err(away)?.bytes().await.map_err(away)?;
        if self::sum(&got) != sum {
            return Err(ApiError::Internal(format!("the picture {} is not what it was", name(sum))));
        }
        Ok(got.to_vec())
    }

    /// The sums of what lies there for more than a day: what no row refers to can be taken out.
    ///
    /// # Errors
    /// [`ApiError::PictureStore`] when the store does not answer.
    pub async fn old(&self) -> Result<Vec<Vec<u8>>, ApiError> {
        let Some(store) = &self.0 else { return Ok(vec![]) };
        let all = store.list(None).try_filter_map(async |object| {
            Ok(object.location.filename().and_then(sum_of).filter(|_| is_old(&object)))
        });
        all.try_collect().await.map_err(away)
    }

    /// Takes one out, unless somebody has just brought it again.
    ///
    /// # Errors
    /// [`ApiError::PictureStore`] when the store does not answer.
    pub async fn take_out(&self, sum: &[u8]) -> Result<(), ApiError> {
        let Some(store) = &self.0 else { return Ok(()) };
        let place = place(sum);
        if is_old(&store.head(&place).await.map_err(away)?) {
            store.delete(&place).await.map_err(away)?;
        }
        Ok(())
    }
}

fn is_old(object: &ObjectMeta) -> bool {
    let day_ago = time::OffsetDateTime::now_utc() - YOUNG;
    object.last_modified.timestamp() < day_ago.unix_timestamp()
}

/// Two letters make folders, so that none of them holds all.
fn place(sum: &[u8]) -> Path {
    let name = name(sum);
    Path::from_iter([name.get(..2).unwrap_or_default(), &name])
}

/// A sum from its name; nothing for what is no picture of ours.
fn sum_of(name: &str) -> Option<Vec<u8>> {
    hex::decode(name).ok().filter(|sum| sum.len() == size_of::<Sum>())
}

fn away(e: object_store::Error) -> ApiError {
    let e = format!("{e}");
    if e.contains("os error 28") {
        return ApiError::DiskFull;
    }
    tracing::error!(why = %e, "the store of the pictures");
    ApiError::PictureStore
}
