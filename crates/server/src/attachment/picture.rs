//! A picture as it is kept: turned upright, no larger than a screen can use, without what the camera wrote beside it
//! (place, time, owner). And a small copy.

use std::io::Cursor;

use image::codecs::jpeg::JpegEncoder;
use image::imageops::FilterType;
use image::metadata::Orientation;
use image::{DynamicImage, ImageDecoder, ImageFormat, ImageReader, Limits};

use crate::error::ApiError;

/// The longest side of what is kept, and of the small copy, in pixels.
const LARGE: u32 = 2400;
const SMALL: u32 = 360;
/// A larger picture is refused before it is unpacked: by a side, and in all (the largest cameras make 50 million).
const LONGEST_SIDE: u32 = 16_000;
const MOST_PIXELS: u64 = 50_000_000;
const MOST_MEMORY: u64 = 256 * 1024 * 1024;
const QUALITY: u8 = 86;

/// What is kept of a picture.
#[derive(Debug)]
pub struct Kept {
    /// `image/jpeg` or `image/png`.
    pub media: &'static str,
    /// Its width in pixels.
    pub width: u32,
    /// Its height in pixels.
    pub height: u32,
    /// The picture.
    pub content: Vec<u8>,
    /// The small copy, a JPEG.
    pub small: Vec<u8>,
}

/// Whether the bytes are those of a PDF.
#[must_use]
pub fn is_pdf(bytes: &[u8]) -> bool {
    bytes.starts_with(b"%PDF-")
}

/// Reads a picture by its content, whatever its name says.
///
/// # Errors
/// 422 for what is no JPEG, PNG or WebP, or is broken, or would be too large unpacked.
pub fn kept(bytes: &[u8]) -> Result<Kept, ApiError> {
    let broken = |e: image::ImageError| ApiError::field("file", format!("this picture cannot be read: {e}"));
    let format = image::guess_format(bytes).ok();
    let format = format.filter(|f| matches!(f, ImageFormat::Jpeg | ImageFormat::Png | ImageFormat::WebP));
    let format = format.ok_or_else(|| {
        ApiError::field("file", "this is no JPEG, PNG, WebP or PDF, whatever its name says")
    })?;
    let mut reader = ImageReader::with_format(Cursor::new(bytes), format);
    let mut limits = Limits::default();
    limits.max_image_width = Some(LONGEST_SIDE);
    limits.max_image_height = Some(LONGEST_SIDE);
    limits.max_alloc = Some(MOST_MEMORY);
    reader.limits(limits);
    let mut decoder = reader.into_decoder().map_err(broken)?;
    let (width, height) = decoder.dimensions();
    let pixels = u64::from(width) * u64::from(height);
    if pixels > MOST_PIXELS {
        return Err(ApiError::field(
            "file",
            format!(
                "this picture has {} million pixels; up to {} million are taken",
                pixels / 1_000_000,
                MOST_PIXELS / 1_000_000
            ),
        ));
    }
    let turned = decoder.orientation().unwrap_or(Orientation::NoTransforms);
    let mut picture = DynamicImage::from_decoder(decoder).map_err(broken)?;
    picture.apply_orientation(turned);
    if picture.width().max(picture.height()) > LARGE {
        picture = picture.resize(LARGE, LARGE, FilterType::Triangle);
    }
    let small = jpeg(&picture.thumbnail(SMALL, SMALL))?;
    // What is drawn stays sharp as PNG; what is photographed stays small as JPEG.
    let (media, content) = match format {
        ImageFormat::Png => {
            let mut out = Cursor::new(Vec::new());
            picture.write_to(&mut out, ImageFormat::Png).map_err(broken)?;
            ("image/png", out.into_inner())
        }
        _ => ("image/jpeg", jpeg(&picture)?),
    };
    Ok(Kept { media, width: picture.width(), height: picture.height(), content, small })
}

/// Whether a picture and its small copy are as [`kept`] leaves them: whole, no larger, and with nothing beside the picture.
#[must_use]
pub fn is_as_kept(content: &[u8], small: &[u8]) -> bool {
    let plain = |bytes: &[u8], longest: u32| {
        let format = image::guess_format(bytes).ok();
        let bare = match format {
            Some(ImageFormat::Jpeg) => is_bare_jpeg(bytes),
            Some(ImageFormat::Png) => is_bare_png(bytes),
            _ => false,
        };
        let mut reader = ImageReader::new(Cursor::new(bytes));
        if let Some(format) = format {
            reader.set_format(format);
        }
        let mut limits = Limits::default();
        (limits.max_image_width, limits.max_image_height) = (Some(longest), Some(longest));
        reader.limits(limits);
        bare && reader.decode().is_ok()
    };
    plain(content, LARGE) && plain(small, SMALL)
}

/// Whether a JPEG holds only what the picture is drawn from: no comments, nothing that a camera wrote, nothing behind it.
fn is_bare_jpeg(bytes: &[u8]) -> bool {
    let mut at = 2;
    loop {
        let Some([0xff, marker, high, low]) = bytes.get(at..at + 4) else { return false };
        let length = usize::from(u16::from_be_bytes([*high, *low]));
        match marker {
            // JFIF's own head, tables, the frame, restart intervals (ITU-T T.81, table B.1, memory).
            0xe0 | 0xdb | 0xc4 | 0xc0..=0xc2 | 0xdd => at += 2 + length,
            0xda => return bytes.ends_with(&[0xff, 0xd9]),
            _ => return false,
        }
    }
}

/// Whether a PNG holds only what the picture is drawn from.
fn is_bare_png(bytes: &[u8]) -> bool {
    let mut at = 8;
    loop {
        let Some(Some(head)) = bytes.get(at..at + 8).map(|h| h.as_array::<8>()) else { return false };
        let length = u32::from_be_bytes([head[0], head[1], head[2], head[3]]) as usize;
        match &head[4..] {
            b"IHDR" | b"PLTE" | b"tRNS" | b"IDAT" => at += 12 + length,
            b"IEND" => return at + 12 == bytes.len(),
            _ => return false,
        }
    }
}

fn jpeg(picture: &DynamicImage) -> Result<Vec<u8>, ApiError> {
    let mut out = Vec::new();
    // JPEG knows nothing of what shines through.
    DynamicImage::ImageRgb8(picture.to_rgb8())
        .write_with_encoder(JpegEncoder::new_with_quality(&mut out, QUALITY))
        .map_err(|e| ApiError::Internal(e.to_string()))?;
    Ok(out)
}

#[cfg(test)]
#[allow(clippy::unwrap_used)]
mod tests {
    use super::*;

    fn jpeg_with_place() -> Vec<u8> {
        let picture =
            DynamicImage::ImageRgb8(image::RgbImage::from_fn(40, 20, |x, _| image::Rgb([x as u8 * 6, 0, 0])));
        let plain = jpeg(&picture).unwrap();
        // An Exif block with orientation 6 (a quarter turn) and a word that a place would be.
        let mut tiff = b"Exif\0\0MM\0*\0\0\0\x08\0\x01\x01\x12\0\x03\0\0\0\x01\0\x06\0\0\0\0\0\0".to_vec();
        tiff.extend(b"GPS: Lantern Quay 59.9N");
        let mut out = plain[..2].to_vec();
        out.extend([0xff, 0xe1]);
        out.extend(u16::try_from(tiff.len() + 2).unwrap().to_be_bytes());
        out.extend(&tiff);
        out.extend(&plain[2..]);
        out
    }

    #[test]
    fn a_photograph_is_turned_upright_and_loses_its_place() {
        let given = jpeg_with_place();
        assert!(given.windows(11).any(|w| w == b"Lantern Qua"));
        let k = kept(&given).unwrap();
        assert_eq!((k.width, k.height, k.media), (20, 40, "image/jpeg"));
        for bytes in [&k.content, &k.small] {
            assert!(!bytes.windows(4).any(|w| w == b"Exif" || w == b"GPS:"));
        }
    }

    #[test]
    fn what_is_kept_is_known_again_and_nothing_that_carries_more() {
        let k = kept(&jpeg_with_place()).unwrap();
        assert!(is_as_kept(&k.content, &k.small));
        let sharp = DynamicImage::ImageRgb8(image::RgbImage::from_fn(40, 20, |x, y| {
            image::Rgb([x as u8, y as u8, 9])
        }));
        let mut png = Cursor::new(Vec::new());
        sharp.write_to(&mut png, ImageFormat::Png).unwrap();
        let drawn = kept(&png.into_inner()).unwrap();
        assert!(is_as_kept(&drawn.content, &drawn.small));
        let behind = [k.content.as_slice(), b"<script>"].concat();
        for other in [&jpeg_with_place(), &behind, &k.content[..k.content.len() / 2].to_vec(), &vec![]] {
            assert!(!is_as_kept(other, &k.small));
        }
    }

    #[test]
    fn what_is_no_picture_is_refused_whatever_it_is_called() {
        for bytes in [
            &b"<svg onload=alert(1)>"[..],
            b"GIF89a\x01\0\x01\0",
            b"",
            b"\x89PNG\r\n\x1a\n broken",
            b"\xff\xd8\xff\xe0 broken",
        ] {
            assert!(matches!(kept(bytes), Err(ApiError::Impossible { .. })), "{bytes:?}");
        }
        assert!(is_pdf(b"%PDF-1.7 ..."));
    }

    #[test]
    fn a_large_picture_is_made_smaller_and_a_bomb_is_not_unpacked() {
        let wide = DynamicImage::ImageLuma8(image::GrayImage::new(5000, 10));
        let mut png = Cursor::new(Vec::new());
        wide.write_to(&mut png, ImageFormat::Png).unwrap();
        let k = kept(&png.into_inner()).unwrap();
        assert_eq!((k.width, k.media), (2400, "image/png"));
        let bomb = DynamicImage::ImageLuma8(image::GrayImage::new(20_000, 2));
        let mut png = Cursor::new(Vec::new());
        bomb.write_to(&mut png, ImageFormat::Png).unwrap();
        assert!(kept(&png.into_inner()).is_err());
        // Within each side, in one bit a few kilobytes, unpacked a gigabyte.
        let mut png = Vec::new();
        let mut encoder = png::Encoder::new(&mut png, 12_000, 12_000);
        encoder.set_color(png::ColorType::Grayscale);
        encoder.set_depth(png::BitDepth::One);
        encoder.write_header().unwrap().write_image_data(&vec![0; 12_000 * 1500]).unwrap();
        let refused = kept(&png).unwrap_err().to_string();
        assert!(refused.contains("144 million pixels"), "{refused}");
    }

    /// What is bent at any place is refused, or comes out as what is kept; the program goes on.
    #[test]
    fn bent_pictures_are_refused_or_come_out_clean() {
        use proptest::prelude::*;
        let sharp = DynamicImage::ImageRgb8(image::RgbImage::from_fn(24, 16, |x, y| {
            image::Rgb([(x * 9) as u8, (y * 13) as u8, 77])
        }));
        let as_format = |f| {
            let mut out = Cursor::new(Vec::new());
            sharp.write_to(&mut out, f).unwrap();
            out.into_inner()
        };
        let whole = [as_format(ImageFormat::Png), jpeg_with_place(), as_format(ImageFormat::WebP)];
        let bends = prop::collection::vec((any::<prop::sample::Index>(), any::<u8>()), 0..12);
        let cut = prop::option::of(any::<prop::sample::Index>());
        let mut runner = proptest::test_runner::TestRunner::new(ProptestConfig {
            cases: 300,
            failure_persistence: None,
            ..ProptestConfig::default()
        });
        let holds = runner.run(&(0..whole.len(), bends, cut), |(which, bends, cut)| {
            let mut bytes = whole[which].clone();
            for (at, to) in bends {
                let at = at.index(bytes.len());
                bytes[at] = to;
            }
            if let Some(cut) = cut {
                bytes.truncate(cut.index(bytes.len()));
            }
            match kept(&bytes) {
                Ok(k) => prop_assert!(is_as_kept(&k.content, &k.small)),
                Err(e) => prop_assert!(matches!(e, ApiError::Impossible { .. }), "{e}"),
            }
            Ok(())
        });
        holds.unwrap();
    }
}
