//! The names of the derives that describe the API, adding nothing.

use proc_macro::TokenStream;

/// A type that isn't described.
#[proc_macro_derive(ToSchema, attributes(schema))]
pub fn schema(_: TokenStream) -> TokenStream {
    TokenStream::new()
}

/// A query that isn't described.
#[proc_macro_derive(IntoParams, attributes(into_params, param))]
pub fn parameters(_: TokenStream) -> TokenStream {
    TokenStream::new()
}

/// A call that isn't described.
#[proc_macro_attribute]
pub fn path(_: TokenStream, call: TokenStream) -> TokenStream {
    call
}
