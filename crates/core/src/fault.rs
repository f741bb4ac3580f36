//! What is wrong with what was asked, so that a screen can say it beside the field.

/// An error, with the field that it is about.
#[derive(Debug, Clone, PartialEq, Eq, serde::Serialize, thiserror::Error, utoipa::ToSchema)]
#[error("{field}: {message}")]
pub struct FieldError {
    /// Path to the field: `steps[2].do.add.amount`.
    pub field: String,
    /// The error and what to enter, in a sentence.
    pub message: String,
}

impl FieldError {
    /// That this field is wrong, and how.
    pub fn new(field: &str, message: impl Into<String>) -> Self {
        Self { field: field.to_owned(), message: message.into() }
    }
}
