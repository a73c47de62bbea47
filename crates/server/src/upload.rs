//! A large file that a browser sends, put by in a file of its own: it is never whole in memory.

use std::fs::File;
use std::io;

use axum::body::Body as HttpBody;
use tokio::io::AsyncWriteExt;
use tokio_stream::StreamExt;

use crate::error::ApiError;

/// The whole of a file of at most so many megabytes, in a file that nobody else sees and that goes when it is closed.
///
/// # Errors
/// 413 for one that is larger, 507 when the disk is full.
pub async fn to_file(body: HttpBody, most_mb: usize) -> Result<File, ApiError> {
    let mut stream = body.into_data_stream();
    let mut file = tokio::fs::File::from_std(empty_file()?);
    let mut left = most_mb * 1024 * 1024;
    while let Some(chunk) = stream.next().await {
        let chunk = chunk.map_err(|_| ApiError::Malformed("the file broke off on its way".to_owned()))?;
        left = left.checked_sub(chunk.len()).ok_or(ApiError::TooLarge(most_mb * 1024))?;
        file.write_all(&chunk).await.map_err(not_written)?;
    }
    file.flush().await.map_err(not_written)?;
    Ok(file.into_std().await)
}

/// An empty file that goes when it is closed.
///
/// # Errors
/// 507 when the disk is full.
pub fn empty_file() -> Result<File, ApiError> {
    tempfile::tempfile().map_err(not_written)
}

/// Why a file could not be written or read.
#[must_use]
pub fn not_written(e: io::Error) -> ApiError {
    match e.kind() {
        io::ErrorKind::StorageFull | io::ErrorKind::QuotaExceeded => ApiError::DiskFull,
        _ => ApiError::Internal(format!("a file put by for a moment: {e}")),
    }
}
