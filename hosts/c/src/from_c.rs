//! Pointers from C: what is null or not aligned is found here, before anything is made of it.
//!
//! What cannot be found out (that a pointer points to something that lives, that a text ends, that there is as
//! much room as is said) the header asks of whoever calls; each function here asks for the same.

use std::ffi::{CStr, c_char};
use std::mem::MaybeUninit;

use crate::status::{LuckyStatus, Problem};

fn checked<T>(pointer: *const T) -> Result<(), Problem> {
    if pointer.is_null() {
        return Err(Problem(LuckyStatus::Null, "a pointer is null that must not be".into()));
    }
    if !pointer.is_aligned() {
        let what = "a pointer is not aligned as its type must be";
        return Err(Problem(LuckyStatus::Null, what.into()));
    }
    Ok(())
}

/// What a pointer points to, to be read.
pub(crate) unsafe fn given<'c, T>(pointer: *const T) -> Result<&'c T, Problem> {
    checked(pointer)?;
    // SAFETY: it is neither null nor misaligned; the rest is asked of the caller.
    Ok(unsafe { &*pointer })
}

/// What a pointer points to, to be changed.
pub(crate) unsafe fn given_mut<'c, T>(pointer: *mut T) -> Result<&'c mut T, Problem> {
    checked(pointer)?;
    // SAFETY: it is neither null nor misaligned; the rest is asked of the caller.
    Ok(unsafe { &mut *pointer })
}

/// A place for a result, which need not be initialized.
pub(crate) struct Out<T>(*mut T);

/// A place for a result.
pub(crate) unsafe fn out<T>(pointer: *mut T) -> Result<Out<T>, Problem> {
    checked(pointer)?;
    Ok(Out(pointer))
}

impl<T> Out<T> {
    pub(crate) fn write(self, value: T) {
        // SAFETY: `out` has checked it and asked for the rest.
        unsafe { self.0.write(value) }
    }
}

impl<T> Out<*mut T> {
    /// Gives something to the caller, who ends it by its `_free` function.
    pub(crate) fn give(self, value: T) {
        self.write(Box::into_raw(Box::new(value)));
    }
}

/// Ends what was given to the caller.
pub(crate) unsafe fn free<T>(pointer: *mut T) -> Result<(), Problem> {
    if !pointer.is_null() {
        checked(pointer)?;
        // SAFETY: it came from `give`; that it is ended once is asked of the caller.
        drop(unsafe { Box::from_raw(pointer) });
    }
    Ok(())
}

/// A text that ends with a zero byte.
pub(crate) unsafe fn text<'c>(text: *const c_char) -> Result<&'c str, Problem> {
    checked(text)?;
    // SAFETY: it is not null; the rest is asked of the caller.
    let text = unsafe { CStr::from_ptr(text) };
    let not_text = |_| Problem(LuckyStatus::NotText, "a text is not UTF-8".into());
    text.to_str().map_err(not_text)
}

/// A list to read; null where it is empty.
pub(crate) unsafe fn list<'c, T>(first: *const T, count: usize) -> Result<&'c [T], Problem> {
    if checked_count(first, count)? == 0 {
        return Ok(&[]);
    }
    // SAFETY: it is neither null, misaligned nor longer than memory; the rest is asked of the caller.
    Ok(unsafe { std::slice::from_raw_parts(first, count) })
}

/// A list to write, which need not be initialized; null where it is empty.
pub(crate) unsafe fn room<'c, T>(
    first: *mut T,
    count: usize,
) -> Result<&'c mut [MaybeUninit<T>], Problem> {
    if checked_count(first, count)? == 0 {
        return Ok(&mut []);
    }
    // SAFETY: it is neither null, misaligned nor longer than memory, and nothing is read from it; the rest is
    // asked of the caller.
    Ok(unsafe { std::slice::from_raw_parts_mut(first.cast(), count) })
}

fn checked_count<T>(first: *const T, count: usize) -> Result<usize, Problem> {
    if count > 0 {
        checked(first)?;
    }
    let fits = count.checked_mul(size_of::<T>()).is_some_and(|bytes| bytes <= isize::MAX as usize);
    fits.then_some(count).ok_or_else(|| Problem::range("a count is larger than memory"))
}
