//! Screens that are drawn for one size and scaled to others.

use proptest::prelude::*;
use vantic::check::check;
use vantic::display::{Display, Insets};
use vantic::geometry::Frame;
use vantic::model::{Design, Scaling};
use vantic::plan::Plan;
use vantic::resolve::read;
use vantic::text::PlainText;

const SCREEN: &str = "screen poster {
    ladder fit
    band wide: screen.width >= 600
    band low: safe.height < 500
    view head { pin left, right, top to safe; tall: height = 60 }
    text word \"Ferries to the outer islands\" { font 20; start = head.start + 10; end <= head.end; below head by 10 }
    view go { pin right 10, bottom 10 to clear; size = 30; control 40; ring: width <= 40 }
    view hair { pin left, right to screen; below word; height = screen.pixel }
    when wide { in head { tall: height = 80 } }
    when low { in head { tall: height = 40 } }
}";

fn plan(design: &str) -> Plan {
    Plan::new(read(&SCREEN.replacen("ladder", &format!("{design}\n ladder"), 1)).unwrap().screen).unwrap()
}

fn display((width, height): (f64, f64)) -> Display {
    let insets = Insets { left: 0.0, top: height / 20.0, right: width / 30.0, bottom: height / 40.0 };
    let display = Display::new(width, height).unwrap().with_insets(insets).unwrap();
    display.with_density(2.0).unwrap().with_keyboard(height / 5.0).unwrap().with_text_scale(1.3).unwrap()
}

fn near(a: &Frame, b: &Frame) -> bool {
    let edges = |f: &Frame| [f.left, f.top, f.width, f.height];
    std::iter::zip(edges(a), edges(b)).all(|(a, b)| (a - b).abs() <= 1e-6 * (1.0 + b.abs()))
}

#[test]
fn factors_are_those_of_the_two_ratios() {
    let factor = |scaling, width, height| {
        Design::of(400.0, 800.0).scaled(scaling).factor(&Display::new(width, height).unwrap())
    };
    // Twice as wide and half as high cancel in the middle of a blend, not of a mix.
    for (scaling, expected) in [
        (Scaling::Contain, 0.5),
        (Scaling::Cover, 2.0),
        (Scaling::Blend(0.0), 2.0),
        (Scaling::Blend(0.5), 1.0),
        (Scaling::Blend(1.0), 0.5),
        (Scaling::Mix(0.5), 1.25),
    ] {
        assert!((factor(scaling, 800.0, 400.0) - expected).abs() < 1e-12, "{scaling:?}");
    }
    // With a size for each orientation, the display's own counts.
    let both = Design::of(400.0, 800.0).or(1000.0, 500.0);
    assert_eq!(both.factor(&Display::new(800.0, 1600.0).unwrap()), 2.0);
    assert_eq!(both.factor(&Display::new(2000.0, 1000.0).unwrap()), 2.0);
    // However small or large, a factor is within its range, and the screen comes out.
    let tiny = Display::new(1.0, 1.0).unwrap();
    assert_eq!(Design::of(4000.0, 4000.0).factor(&tiny), 0.01);
    let placement = plan("design (4000, 4000), cover").place(&tiny, &PlainText).unwrap();
    assert!(placement.frames.iter().flatten().all(|f| f.width.is_finite() && f.width >= 0.0));
}

#[test]
fn bands_and_insets_count_in_the_units_of_the_screen_and_controls_on_the_device() {
    let plan = plan("design (400, 800), blend 0%");
    let at = |width: f64, height: f64| {
        let placement = plan.place(&Display::new(width, height).unwrap(), &PlainText).unwrap();
        let frame = |name: &str| placement.frame(plan.screen().find(name).unwrap()).unwrap();
        (frame("head"), placement.scale(), frame("hair").height * placement.scale())
    };
    // 1000 wide is 400 of its units, so that it is not `wide`, and 1000 high is 400, which is `low`.
    let (head, scale, hair) = at(1000.0, 1000.0);
    assert_eq!(([head.width, head.height, scale], hair), ([400.0, 40.0, 2.5], 1.0));
    assert_eq!(at(1000.0, 2000.0).0.height, 60.0);
    // A control of 30 units is 60 on a display twice as wide, and 22.5 on a smaller one.
    let small = |width: f64| {
        let report = check(&plan, &[Display::new(width, 2.0 * width).unwrap()], &PlainText).unwrap();
        report.findings.iter().find(|f| f.code == vantic::model::Code::Small).map(|f| f.amount)
    };
    assert_eq!((small(800.0), small(300.0)), (None, Some(40.0 - 22.5)));
}

#[test]
fn a_drawn_size_that_cannot_be_is_refused() {
    for (design, said) in [
        ("design (400, 0)", "from 1 to 10000000"),
        ("design (400, 800) or (300, 600)", "for the two orientations"),
        ("design (400, 800), blend 130%", "within 0% and 100%"),
        ("design (400, 800), stretch", "expected `contain`, `cover`"),
        ("design (400, 800); design (300, 600)", "this is the second"),
    ] {
        let errors = read(&SCREEN.replacen("ladder", &format!("{design}\n ladder"), 1)).unwrap_err();
        assert!(errors.to_string().contains(said), "{design}: {errors}");
    }
}

proptest! {
    #![proptest_config(vantic_testkit::cases(80))]

    /// Scaled, a screen is what it is on a display of the size in its own units, and all of it so many times
    /// as large.
    #[test]
    fn a_scaled_screen_is_the_same_on_a_display_in_its_units(
        device in (200.0..2500.0_f64, 200.0..2500.0_f64),
        drawn in (200_u32..1500, 200_u32..1500),
        share in 0_u32..=100,
        how in 0_usize..4,
    ) {
        let hows: [String; 4] =
            ["contain".into(), "cover".into(), format!("blend {share}%"), format!("mix {share}%")];
        let how = &hows[how];
        let scaled = plan(&format!("design ({}, {}), {how}", drawn.0, drawn.1));
        let on = display(device);
        let placement = scaled.place(&on, &PlainText).unwrap();
        let scale = placement.scale();
        let plain = plan("");
        let canvas = display((device.0 / scale, device.1 / scale)).with_density(2.0 * scale);
        prop_assume!(canvas.is_ok());
        let expected = plain.place(&canvas.unwrap(), &PlainText).unwrap();
        for (view, _) in scaled.screen().views() {
            let same = plain.screen().find(&scaled.screen().path(view)).unwrap();
            let (is, should) = (placement.frame(view).unwrap(), expected.frame(same).unwrap());
            prop_assert!(near(&is, &should), "{} times: {is:?} {should:?}", scale);
            let Frame { left, top, width, height } = is;
            let larger =
                Frame { left: left * scale, top: top * scale, width: width * scale, height: height * scale };
            prop_assert_eq!(placement.device_frame(view), Some(larger));
        }
        // Contained, the drawn size fits the display; covering, it is no smaller.
        let (width, height) = (placement.canvas().width(), placement.canvas().height());
        let beyond = (f64::from(drawn.0) - width).max(f64::from(drawn.1) - height);
        match how.as_str() {
            "contain" => prop_assert!(beyond <= 1e-6),
            "cover" => {
                prop_assert!(width - f64::from(drawn.0) <= 1e-6 && height - f64::from(drawn.1) <= 1e-6)
            }
            _ => {}
        }
    }
}
