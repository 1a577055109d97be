//! Enums of names.

/// Makes an enum of names, each with the word that it has in files and on the wire.
macro_rules! named {
    ($(#[$doc:meta])* $of:ident { $($variant:ident = $name:ident),* $(,)? }) => {
        $(#[$doc])*
        #[derive(
            Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, serde::Serialize, serde::Deserialize,
            utoipa::ToSchema,
        )]
        #[serde(rename_all = "snake_case")]
        pub enum $of {
            $(
                #[doc = concat!("`", stringify!($name), "`")]
                $variant,
            )*
        }

        impl $of {
            /// Every one of them.
            pub const ALL: &[Self] = &[$(Self::$variant),*];

            /// As written in files.
            pub fn name(self) -> &'static str {
                match self {
                    $(Self::$variant => stringify!($name),)*
                }
            }

            /// The one of this name.
            #[allow(dead_code, reason = "not every one can be read from a word")]
            pub fn parse(name: &str) -> Option<Self> {
                Self::ALL.iter().copied().find(|one| one.name() == name)
            }
        }
    };
}
pub(crate) use named;
