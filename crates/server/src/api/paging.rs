//! Lists come a page at a time, all in the same way: at most `limit` after the first `after`, and `next` is what to
//! ask after for those that follow. There is none where the list ends.

use serde::Deserialize;
use utoipa::IntoParams;

/// So many at most on one page.
const MOST: usize = 500;
/// So many if nothing is said.
const USUAL: usize = 200;

/// Which page of a list.
#[derive(Debug, Default, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
#[serde(deny_unknown_fields)]
pub(crate) struct PageQuery {
    /// How many to skip: `next` of the page before.
    #[serde(default)]
    after: usize,
    /// How many to show at most, 1 to 500; 200 if left out.
    limit: Option<usize>,
}

impl PageQuery {
    pub(super) fn page(&self) -> Page {
        Page::new(self.after, self.limit)
    }
}

/// A part of a list.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(super) struct Page {
    pub(super) after: usize,
    most: usize,
}

impl Page {
    pub(super) fn new(after: usize, limit: Option<usize>) -> Self {
        Self { after, most: limit.unwrap_or(USUAL).clamp(1, MOST) }
    }

    /// How many to look for: one more than is shown tells whether there are more.
    pub(super) fn sought(self) -> usize {
        self.most + 1
    }

    /// Takes the one more off again. What to ask after for the next page, if there is one.
    pub(super) fn cut<T>(self, found: &mut Vec<T>) -> Option<usize> {
        let more = found.len() > self.most;
        found.truncate(self.most);
        more.then_some(self.after + self.most)
    }

    /// This part of a list that is there as a whole.
    pub(super) fn of<T>(self, all: Vec<T>) -> (Vec<T>, Option<usize>) {
        let mut found: Vec<T> = all.into_iter().skip(self.after).take(self.sought()).collect();
        let next = self.cut(&mut found);
        (found, next)
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn pages_hold_everything_once_and_end() {
        for total in [0, 1, 4, 5, 6, 10, 11] {
            let all: Vec<usize> = (0..total).collect();
            let (mut seen, mut after) = (Vec::new(), Some(0));
            while let Some(from) = after {
                let (page, next) = Page::new(from, Some(5)).of(all.clone());
                assert!(!page.is_empty() || total == 0, "{total}: an empty page");
                seen.extend(page);
                after = next;
            }
            assert_eq!(seen, all);
        }
        assert_eq!(Page::new(0, Some(0)).of(vec![1, 2]), (vec![1], Some(1)));
        assert_eq!(Page::new(0, Some(9999)).sought(), 501);
        assert_eq!(Page::new(7, None).of(vec![1, 2]), (vec![], None));
    }
}
