//! A file that is read under watch: it reports how far it is, can be stopped at any byte, and has no endless lines,
//! whatever reads it.

use std::io::{Error, Read, Result, Seek, SeekFrom};

use super::{ScanError, ScanFormat, ScanStep, Watch};

/// What a scan is read from.
pub(super) trait Source: Read + Seek {}
impl<T: Read + Seek> Source for T {}

/// Most bytes in a line of text: readers gather a whole line before they look at it.
pub(super) const LONGEST_LINE: usize = 1024 * 1024;

/// A source under watch.
pub(super) struct Watched<'a, 'w> {
    source: &'a mut dyn Source,
    watch: Watch<'w>,
    format: ScanFormat,
    size: u64,
    at: u64,
    told: u64,
    /// Bytes since the last line break, where the file is text.
    line: Option<usize>,
    /// Bytes of the head that are read as line breaks.
    blanked: u64,
    /// A line that is read in place of the file's first, and how many of its bytes are still to come.
    lead: Option<(&'static [u8], usize)>,
    /// Where the source goes on after its first line.
    rest: u64,
    ended: Option<ScanError>,
}

impl<'a, 'w> Watched<'a, 'w> {
    pub(super) fn new(source: &'a mut dyn Source, size: u64, format: ScanFormat, watch: Watch<'w>) -> Self {
        Self { source, watch, format, size, at: 0, told: 0, line: None, blanked: 0, lead: None, rest: 0, ended: None }
    }

    /// The first bytes, at most `most`; the source is back at its start afterwards.
    pub(super) fn head(&mut self, most: u64) -> Result<Vec<u8>> {
        let mut head = Vec::new();
        (&mut *self.source).take(most).read_to_end(&mut head)?;
        self.source.seek(SeekFrom::Start(0))?;
        Ok(head)
    }

    /// From here on it is text, whose lines have an end.
    pub(super) fn is_text(&mut self) {
        self.line = Some(0);
    }

    /// Its first bytes say nothing: they are read as line breaks.
    pub(super) fn blank(&mut self, bytes: u64) {
        self.blanked = bytes;
    }

    /// Its first line, of `length` bytes, is read as `lead`; a reader may want it in one form only.
    pub(super) fn begin_with(&mut self, lead: &'static [u8], length: u64) -> Result<()> {
        (self.lead, self.rest) = (Some((lead, lead.len())), length);
        self.rewind()
    }

    /// Whether it is read as text.
    pub(super) const fn reads_text(&self) -> bool {
        self.line.is_some()
    }

    /// The source itself from its beginning, under no watch: for telling what is wrong with it.
    pub(super) fn again(&mut self) -> Result<&mut dyn Source> {
        self.source.rewind()?;
        Ok(self.source)
    }

    /// Why reading ended early, if it was not the file's own fault.
    pub(super) fn ended(&mut self) -> Option<ScanError> {
        self.ended.take()
    }

    fn end(&mut self, why: ScanError) -> Error {
        let text = why.to_string();
        self.ended.get_or_insert(why);
        Error::other(text)
    }
}

impl Read for Watched<'_, '_> {
    fn read(&mut self, buffer: &mut [u8]) -> Result<usize> {
        // Two hundredths are as fine as a bar on the screen.
        if self.at - self.told > self.size / 200 {
            self.told = self.at;
            let percent = u8::try_from(self.at * 100 / self.size.max(1)).unwrap_or(100);
            if (self.watch)(ScanStep::Reading, f32::from(percent.min(100)) / 100.0).is_break() {
                return Err(self.end(ScanError::Stopped));
            }
        }
        if let Some((lead, left @ 1..)) = &mut self.lead {
            let count = buffer.len().min(*left);
            let from = lead.len() - *left;
            buffer[..count].copy_from_slice(&lead[from..from + count]);
            *left -= count;
            return Ok(count);
        }
        let count = self.source.read(buffer)?;
        let read = &mut buffer[..count];
        if self.lead.is_some() {
            // Names in any encoding are passed over; figures are plain.
            read.iter_mut().filter(|byte| !byte.is_ascii()).for_each(|byte| *byte = b'?');
        }
        let blank = usize::try_from(self.blanked.saturating_sub(self.at)).unwrap_or(usize::MAX);
        read.iter_mut().take(blank).for_each(|byte| *byte = b'\n');
        self.at += u64::try_from(count).unwrap_or_default();
        if let Some(line) = &mut self.line {
            *line = match read.iter().rposition(|byte| *byte == b'\n') {
                Some(last) => count - last,
                None => *line + count,
            };
            if *line > LONGEST_LINE {
                let (format, what, most) = (self.format, "bytes in one line", LONGEST_LINE);
                return Err(self.end(ScanError::TooMany { format, what, most }));
            }
        }
        Ok(count)
    }
}

impl Seek for Watched<'_, '_> {
    fn seek(&mut self, to: SeekFrom) -> Result<u64> {
        self.at = match (&mut self.lead, to) {
            (Some((lead, left)), SeekFrom::Start(0)) => {
                *left = lead.len();
                self.source.seek(SeekFrom::Start(self.rest))?
            }
            _ => self.source.seek(to)?,
        };
        self.told = self.told.min(self.at);
        self.line = self.line.map(|_| 0);
        Ok(self.at)
    }
}
