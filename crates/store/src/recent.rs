//! A bounded map: when it is full, what was not asked for longest makes room.

use std::borrow::Borrow;
use std::collections::{BTreeMap, HashMap};
use std::hash::Hash;

/// At most `most` values; the one that was used longest ago goes first.
#[derive(Debug)]
pub struct Recent<K, V> {
    most: usize,
    used: u64,
    held: HashMap<K, (V, u64)>,
    order: BTreeMap<u64, K>,
}

impl<K: Hash + Eq + Clone, V> Recent<K, V> {
    /// An empty one for `most` values, at least one.
    pub fn new(most: usize) -> Self {
        Self { most: most.max(1), used: 0, held: HashMap::new(), order: BTreeMap::new() }
    }

    /// The value of this key, which is in use again by that.
    pub fn get<Q: Hash + Eq + ?Sized>(&mut self, key: &Q) -> Option<&V>
    where
        K: Borrow<Q>,
    {
        let (value, at) = self.held.get_mut(key)?;
        self.used += 1;
        if let Some(key) = self.order.remove(at) {
            self.order.insert(self.used, key);
        }
        *at = self.used;
        Some(value)
    }

    /// Holds a value in place of the one before.
    pub fn insert(&mut self, key: K, value: V) {
        self.remove(&key);
        while self.held.len() >= self.most
            && let Some((_, oldest)) = self.order.pop_first()
        {
            self.held.remove(&oldest);
        }
        self.used += 1;
        self.order.insert(self.used, key.clone());
        self.held.insert(key, (value, self.used));
    }

    /// Lets go of this key.
    pub fn remove<Q: Hash + Eq + ?Sized>(&mut self, key: &Q)
    where
        K: Borrow<Q>,
    {
        if let Some((_, at)) = self.held.remove(key) {
            self.order.remove(&at);
        }
    }

    /// Lets go of all.
    pub fn clear(&mut self) {
        self.held.clear();
        self.order.clear();
    }
}

#[cfg(test)]
mod tests {
    use super::Recent;

    #[test]
    fn what_was_used_longest_ago_makes_room() {
        let mut recent = Recent::new(3);
        for key in ["a", "b", "c"] {
            recent.insert(key, key.len());
        }
        assert!(recent.get("a").is_some());
        recent.insert("c", 7);
        recent.insert("d", 4);
        assert_eq!(
            ["a", "b", "c", "d"].map(|key| recent.get(key).copied()),
            [Some(1), None, Some(7), Some(4)]
        );
        recent.clear();
        assert_eq!(recent.get("a"), None);
    }
}
