//! A table by group and state.

/// A value for each state of each group, stored with a stride of the largest group.
pub(crate) struct Table<T> {
    /// How many bits tell a state.
    bits: u32,
    values: Vec<T>,
}

impl<T: Default> Table<T> {
    /// Computes a value for each state from a list by group and state.
    pub fn of<'a, S>(of: &'a [Vec<S>], mut value: impl FnMut(usize, u16, &'a S) -> T) -> Self {
        let most = of.iter().map(Vec::len).max().unwrap_or(0);
        let bits = most.next_power_of_two().trailing_zeros();
        let mut values = Vec::with_capacity(of.len() << bits);
        for (group, states) in of.iter().enumerate() {
            values.extend(states.iter().enumerate().map(|(state, known)| value(group, state as u16, known)));
            values.resize_with((group + 1) << bits, T::default);
        }
        Self { bits, values }
    }

    #[inline]
    fn place(&self, group: u16, state: u16) -> usize {
        (usize::from(group) << self.bits) + usize::from(state)
    }

    #[inline]
    pub fn at(&self, group: u16, state: u16) -> &T {
        &self.values[self.place(group, state)]
    }

    #[inline]
    pub fn at_mut(&mut self, group: u16, state: u16) -> &mut T {
        let place = self.place(group, state);
        &mut self.values[place]
    }

    /// All values, in the order of groups and states.
    pub fn values_mut(&mut self) -> &mut [T] {
        &mut self.values
    }
}
