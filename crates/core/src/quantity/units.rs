use serde::{Deserialize, Serialize};

macro_rules! unit {
    ($(#[$doc:meta])* $name:ident) => {
        $(#[$doc])*
        #[derive(Debug, Clone, Copy, PartialEq, PartialOrd, Default, Serialize, Deserialize)]
        #[serde(transparent)]
        #[derive(utoipa::ToSchema)]
        pub struct $name(pub f64);

        impl std::ops::Add for $name {
            type Output = Self;
            fn add(self, other: Self) -> Self {
                Self(self.0 + other.0)
            }
        }
        impl std::ops::AddAssign for $name {
            fn add_assign(&mut self, other: Self) {
                self.0 += other.0;
            }
        }
        impl std::ops::Sub for $name {
            type Output = Self;
            fn sub(self, other: Self) -> Self {
                Self(self.0 - other.0)
            }
        }
        impl std::ops::Mul<f64> for $name {
            type Output = Self;
            fn mul(self, factor: f64) -> Self {
                Self(self.0 * factor)
            }
        }
        /// The plain ratio of two quantities of the same kind.
        impl std::ops::Div for $name {
            type Output = f64;
            fn div(self, other: Self) -> f64 {
                self.0 / other.0
            }
        }
        impl $name {
            /// The smaller of two.
            #[must_use]
            pub fn min(self, other: Self) -> Self {
                Self(self.0.min(other.0))
            }
            /// The larger of two.
            #[must_use]
            pub fn max(self, other: Self) -> Self {
                Self(self.0.max(other.0))
            }
        }
    };
}

unit!(
    /// A mass in grams.
    Grams
);
unit!(
    /// A volume in millilitres.
    Millilitres
);
unit!(
    /// A temperature in degrees Celsius.
    Celsius
);
unit!(
    /// A length in millimetres.
    Millimetres
);
unit!(
    /// A time span in minutes.
    Minutes
);

impl Celsius {
    /// The same temperature in kelvins.
    #[must_use]
    pub(crate) fn kelvin(self) -> f64 {
        self.0 + 273.15
    }
}
