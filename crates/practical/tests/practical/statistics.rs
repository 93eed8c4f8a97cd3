//! Statistics of a class: textbook and standard examples, and what must not be given a number.

use practical::statistics::{
    against_accepted, algorithm_a, anova, dixon, grubbs, inverse, kruskal_wallis, regression, summary, welch,
};

fn told<T: std::fmt::Debug>(result: Result<T, practical::statistics::Undefined>) -> String {
    result.unwrap_err().to_string()
}

/// By hand: 24.30, 24.20, 24.40 have mean 24.30, s 0.10, and t(0.975, 2) = 4.303.
#[test]
fn a_summary_of_three_titres() {
    let s = summary(&[24.30, 24.20, 24.40]).unwrap();
    let spread = s.spread.unwrap();
    assert_eq!(format!("{:.2} {:.2} {:.2}", s.mean, s.median, spread.sd), "24.30 24.30 0.10");
    assert_eq!(format!("{:.3} {:.3}", spread.t_975, spread.ci95_high - s.mean), "4.303 0.248");
    assert!(summary(&[24.30]).unwrap().spread.is_none());
    assert_eq!(told(summary(&[])), "a summary needs at least 1 values; there are 0");
}

/// Large numbers with small differences: NIST's NumAcc4 has mean 10000000.2 and s 0.1 exactly.
#[test]
fn nothing_is_lost_to_cancellation() {
    let values: Vec<f64> = std::iter::once(10_000_000.2)
        .chain((0..1000).map(|i| if i % 2 == 0 { 10_000_000.1 } else { 10_000_000.3 }))
        .collect();
    let s = summary(&values).unwrap();
    assert!((s.mean - 10_000_000.2).abs() < 1e-7);
    assert!((s.spread.unwrap().sd - 0.1).abs() < 1e-8);
}

#[test]
fn an_outlier_test_marks_the_wild_value_and_not_its_near_twin() {
    let wild = [24.85, 24.72, 25.38, 24.78, 24.81];
    let near = [24.85, 24.72, 24.90, 24.78, 24.81];
    let g = grubbs(&wild).unwrap();
    assert_eq!((g.suspect, g.outlier), (2, true));
    assert!(!grubbs(&near).unwrap().outlier);
    assert_eq!(dixon(&wild).unwrap().suspect, Some(25.38));
    assert!(!dixon(&near).unwrap().outlier);
    // Both ends stand off equally: no single suspect.
    assert_eq!(dixon(&[10.0, 11.0, 12.0]).unwrap().suspect, None);
    assert_eq!(told(grubbs(&[5.0, 5.0, 5.0])), "Grubbs' test says nothing where values do not differ");
    assert_eq!(told(dixon(&[1.0, 2.0])), "Dixon's Q needs at least 3 values; there are 2");
    assert_eq!(told(dixon(&[0.0; 11])), "Dixon's Q is tabled for at most 10 values; there are 11");
}

/// A robust mean moves by less than s when one of ten values goes wild, the plain mean by nine.
#[test]
fn a_robust_mean_does_not_follow_one_wild_value() {
    let values = [1.0, 2.0, 3.0, 4.0, 5.0, 6.0, 7.0, 8.0, 9.0, 100.0];
    let robust = algorithm_a(&values).unwrap();
    assert_eq!(format!("{:.2}", robust.mean), "5.61");
    assert_eq!(format!("{:.1}", summary(&values).unwrap().mean), "14.5");
    assert_eq!(told(algorithm_a(&[3.0, 3.0, 3.0, 9.0])), "a robust mean says nothing where values do not differ");
}

/// Miller & Miller, 6th ed., example 5.3.1: fluorescence of seven standards; slope 1.93, intercept 1.52; and 13.5 reads
/// off as 6.21 with standard error 0.24.
#[test]
fn a_calibration_line_and_an_unknown_read_off_it() {
    let x = [0.0, 2.0, 4.0, 6.0, 8.0, 10.0, 12.0];
    let y = [2.1, 5.0, 9.0, 12.6, 17.3, 21.0, 24.7];
    let line = regression(&x, &y).unwrap();
    assert_eq!(format!("{:.2} {:.2}", line.slope, line.intercept), "1.93 1.52");
    let unknown = inverse(&x, &y, 13.5, 1).unwrap();
    assert_eq!(format!("{:.2} {:.2}", unknown.x, unknown.standard_error), "6.21 0.24");
    assert!(regression(&x[..2], &y[..2]).unwrap().errors.is_none());
    assert_eq!(told(regression(&x, &y[..3])), "a line needs as many values in one list as in the other: 7 and 3");
    assert_eq!(told(regression(&[1.0, 1.0], &[1.0, 2.0])), "a line says nothing where values do not differ");
    assert_eq!(
        told(inverse(&[1.0, 2.0, 3.0], &[5.0, 5.0, 5.0], 5.0, 1)),
        "reading off a line says nothing where values do not differ"
    );
}

#[test]
fn a_balance_that_reads_high_shows_between_groups() {
    let one = vec![24.88, 24.84, 24.71, 24.90];
    let other = vec![25.12, 24.99, 25.02, 24.98];
    let differ = anova(&[one.clone(), other.clone()]).unwrap();
    assert!(differ.significant && differ.p_value < 0.011);
    assert!(kruskal_wallis(&[one.clone(), other]).unwrap().significant);
    let alike = vec![24.80, 24.86, 24.75, 24.91];
    assert!(!anova(&[one.clone(), alike.clone()]).unwrap().significant);
    assert!(!welch(&one, &alike).unwrap().significant);
    assert_eq!(
        told(anova(&[vec![5.0, 5.0], vec![6.0, 6.0]])),
        "analysis of variance says nothing where values do not differ"
    );
    assert_eq!(told(anova(&[vec![5.0]])), "analysis of variance needs at least 2 values; there are 1");
    assert_eq!(
        told(kruskal_wallis(&[vec![1.0, 1.0], vec![1.0]])),
        "Kruskal–Wallis says nothing where values do not differ"
    );
}

/// 0.0972, 0.0969, 0.0975 against 0.0973: −0.1 %, and no reason to believe in it.
#[test]
fn a_class_against_an_accepted_value() {
    let (percent, p) = against_accepted(&[0.0972, 0.0969, 0.0975], 0.0973).unwrap();
    assert_eq!(format!("{percent:.2}"), "-0.10");
    assert!(p > 0.5, "{p}");
    let (_, p) = against_accepted(&[0.0952, 0.0949, 0.0955], 0.0973).unwrap();
    assert!(p < 0.01, "{p}");
}
