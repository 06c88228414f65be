//! Turning and scaling of what is painted.

use crate::geometry::frame::Frame;
use crate::model::view::Paint;

/// What painting does to points, in logical pixels: `(a x + c y + e, b x + d y + f)`, the affine
/// matrix of SVG (`matrix(a, b, c, d, e, f)`).
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Painting(pub [f64; 6]);

impl Painting {
    /// Everything is painted where it is.
    pub const PLAIN: Painting = Painting([1.0, 0.0, 0.0, 1.0, 0.0, 0.0]);

    /// Whether everything is painted where it is.
    pub fn is_plain(&self) -> bool {
        *self == Self::PLAIN
    }

    /// A frame scaled, then turned clockwise, about its origin.
    pub(crate) fn of(paint: Paint, frame: &Frame) -> Self {
        if paint.is_plain() {
            return Self::PLAIN;
        }
        let (x, y) = (frame.left + paint.origin.0 * frame.width, frame.top + paint.origin.1 * frame.height);
        let (sin, cos) = crate::geometry::angle::sin_cos_degrees(paint.rotate);
        let (a, b) = (cos * paint.scale.0, sin * paint.scale.0);
        let (c, d) = (-sin * paint.scale.1, cos * paint.scale.1);
        Self([a, b, c, d, x - a * x - c * y, y - b * x - d * y])
    }

    /// This, and then another.
    pub fn then(&self, next: &Painting) -> Painting {
        let ([a, b, c, d, e, f], [na, nb, nc, nd, ne, nf]) = (self.0, next.0);
        Painting([
            na * a + nc * b,
            nb * a + nd * b,
            na * c + nc * d,
            nb * c + nd * d,
            na * e + nc * f + ne,
            nb * e + nd * f + nf,
        ])
    }

    /// What leads back from where points are painted; `None` where all are painted on one line.
    pub fn inverse(&self) -> Option<Painting> {
        let [a, b, c, d, e, f] = self.0;
        let area = a * d - b * c;
        let back = [d / area, -b / area, -c / area, a / area, (c * f - d * e) / area, (b * e - a * f) / area];
        back.iter().all(|number| number.is_finite()).then_some(Painting(back))
    }

    /// Where a point is painted.
    pub fn apply(&self, x: f64, y: f64) -> (f64, f64) {
        let [a, b, c, d, e, f] = self.0;
        (a * x + c * y + e, b * x + d * y + f)
    }
}
