//! Pointers from C: null is found here, and only texts and lists need trust.

use std::ffi::{CStr, c_char};
use std::mem::MaybeUninit;

use crate::status::{LuckyStatus, Problem};

fn null() -> Problem {
    Problem(LuckyStatus::Null, "a pointer is null that must not be".into())
}

/// What a pointer points to.
pub(crate) fn given<T>(pointer: Option<T>) -> Result<T, Problem> {
    pointer.ok_or_else(null)
}

/// A text that ends with a zero byte.
///
/// # Safety
/// The text lives as long as it is used, and ends.
pub(crate) unsafe fn text<'c>(text: *const c_char) -> Result<&'c str, Problem> {
    if text.is_null() {
        return Err(null());
    }
    // SAFETY: it is not null; the rest is asked of the caller.
    let text = unsafe { CStr::from_ptr(text) };
    let not_text = |_| Problem(LuckyStatus::NotText, "a text is not UTF-8".into());
    text.to_str().map_err(not_text)
}

/// A list to read; null where it is empty.
///
/// # Safety
/// There are so many, and they stay as they are as long as they are used.
pub(crate) unsafe fn list<'c, T>(first: *const T, count: usize) -> Result<&'c [T], Problem> {
    match (first.is_null(), checked::<T>(count)?) {
        (_, 0) => Ok(&[]),
        (true, _) => Err(null()),
        // SAFETY: it is neither null nor longer than memory; the rest is asked of the caller.
        (false, count) => Ok(unsafe { std::slice::from_raw_parts(first, count) }),
    }
}

/// A list to write; null where it is empty.
///
/// # Safety
/// There is room for so many, and nobody else uses it as long as it is used.
pub(crate) unsafe fn room<'c, T>(
    first: *mut T,
    count: usize,
) -> Result<&'c mut [MaybeUninit<T>], Problem> {
    match (first.is_null(), checked::<T>(count)?) {
        (_, 0) => Ok(&mut []),
        (true, _) => Err(null()),
        // SAFETY: it is neither null nor longer than memory, and nothing is read from it; the rest is
        // asked of the caller.
        (false, count) => Ok(unsafe { std::slice::from_raw_parts_mut(first.cast(), count) }),
    }
}

fn checked<T>(count: usize) -> Result<usize, Problem> {
    let fits = count.checked_mul(size_of::<T>()).is_some_and(|bytes| bytes <= isize::MAX as usize);
    fits.then_some(count).ok_or_else(|| Problem::range("a count is larger than memory"))
}
