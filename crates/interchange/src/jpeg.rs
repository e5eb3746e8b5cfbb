//! Structure of a JPEG file (ITU-T T.81, annex B), as far as it must be checked before decoding.

const END_OF_IMAGE: u8 = 0xd9;
/// Start of a frame whose coefficients come in several scans, Huffman or arithmetic coded.
const PROGRESSIVE: [u8; 2] = [0xc2, 0xca];

/// A marker and what follows it.
struct Segment<'a> {
    marker: u8,
    /// Without its length; empty where it has none.
    body: &'a [u8],
}

/// The segments of a file, walked by their lengths, to its end or to where it breaks off. Within a scan, a marker is 0xFF and neither a
/// stuffed zero nor a restart.
fn segments(bytes: &[u8]) -> impl Iterator<Item = Segment<'_>> {
    let mut rest = bytes.get(2..).unwrap_or_default();
    std::iter::from_fn(move || {
        loop {
            let found = rest.iter().position(|byte| *byte == 0xff)?;
            rest = rest.get(found + 1..)?;
            match *rest.first()? {
                // Fill, stuffing, restarts, and what has no length.
                0xff => {}
                0x00 | 0x01 | 0xd0..=0xd8 => rest = rest.get(1..)?,
                END_OF_IMAGE => {
                    rest = &[];
                    return Some(Segment { marker: END_OF_IMAGE, body: &[] });
                }
                marker => {
                    let length = u16::from_be_bytes([*rest.get(1)?, *rest.get(2)?]);
                    let end = 1 + usize::from(length).max(2);
                    let body = rest.get(3..end.min(rest.len())).unwrap_or_default();
                    rest = rest.get(end..).unwrap_or_default();
                    return Some(Segment { marker, body });
                }
            }
        }
    })
}

/// True if all scans are complete: a decoder fills missing parts with grey without an error.
pub(crate) fn is_complete(bytes: &[u8]) -> bool {
    segments(bytes).any(|segment| segment.marker == END_OF_IMAGE)
}

/// Memory for coefficients that a decoder holds until the last scan of a progressive file, bytes: two for each sample of
/// each component. 0 for a file that is decoded row by row.
pub(crate) fn held_coefficients(bytes: &[u8]) -> u64 {
    let frame = segments(bytes).find(|segment| PROGRESSIVE.contains(&segment.marker));
    let Some([_, h1, h0, w1, w0, _, components @ ..]) = frame.map(|frame| frame.body) else { return 0 };
    let pixels = u64::from(u16::from_be_bytes([*h1, *h0])) * u64::from(u16::from_be_bytes([*w1, *w0]));
    // Sampling factors across and down, four bits each.
    let sampled = components.chunks_exact(3).map(|component| {
        let [across, down] = [component[1] >> 4, component[1] & 0xf];
        u64::from(across) * u64::from(down)
    });
    let (sum, most) = sampled.fold((0, 1), |(sum, most), each| (sum + each, most.max(each)));
    2 * pixels * sum / most
}
