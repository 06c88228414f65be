//! The screens of an application, each with a field for all that has a name in it. The build script makes them from the files in
//! `screens`; the build fails where one of them has a mistake, or a check of it finds something.

vantic::include_screen!(pub player);
vantic::include_screen!(pub stop);
vantic::include_screen!(pub toast);
