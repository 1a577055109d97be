//! The one macro that tests are registered by.

/// Makes the module, the name, the list and the dispatch of every test from one line each. The name
/// is the stem of its file, and its id in addresses, files and weights.
macro_rules! registry {
    ($(#[$doc:meta])* $of:ident is $spec:ident { $($variant:ident = $name:ident;)* }) => {
        $(pub mod $name;)*

        crate::named::named! {
            $(#[$doc])*
            $of { $($variant = $name),* }
        }

        impl $of {
            fn spec(self) -> &'static $spec {
                match self {
                    $(Self::$variant => &$name::SPEC,)*
                }
            }

            /// What its lanes say.
            pub(crate) fn outcomes(self) -> &'static [crate::said::Code] {
                match self {
                    $(Self::$variant => $name::outcomes::ALL,)*
                }
            }

            /// The table of its outcomes; empty for one that says nothing to judgement.
            pub(crate) fn table(self) -> &'static str {
                self.spec().table
            }

            /// As called in a sentence.
            pub fn title(self) -> &'static str {
                self.spec().title
            }

            /// As called on a tab.
            pub fn short(self) -> &'static str {
                self.spec().short
            }
        }

        /// What the lanes of these tests say.
        pub(crate) mod outcomes {
            $(
                #[allow(unused_imports, reason = "some have none")]
                pub(crate) use super::$name::outcomes::*;
            )*
        }
    };
}
pub(super) use registry;
