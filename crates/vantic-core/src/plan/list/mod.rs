//! Lists of very many rows, of which those in sight are placed: `heights` knows how tall the rows are, `long_list` what of
//! them is in sight. Stands on `live`.

mod heights;
pub(crate) mod long_list;
