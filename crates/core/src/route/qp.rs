//! The best step under limits that are straight lines: a small quadratic program, solved by Hildreth's method (C.
//! Hildreth, "A quadratic programming procedure", Naval Research Logistics Quarterly 4, 1957).

use super::route_geometry::DesignVector;

/// One limit on a step `d`: `slope . d + value` shall be 0 (or at least 0).
#[derive(Debug, Clone)]
pub struct Constraint {
    /// How its value changes with each free number.
    pub slope: DesignVector,
    /// Its value now.
    pub value: f64,
    /// Whether it shall be exactly 0 rather than at least 0.
    pub exact: bool,
}

/// Most rounds over the limits.
const ROUNDS: u32 = 400;
/// Rounds over the limits that push before all are looked at again: most of many limits never do.
const BETWEEN: u32 = 12;
/// Changes below this are none.
const STILL: f64 = 1e-11;

/// A step, and what holds it.
#[derive(Debug, Clone)]
pub struct QpStep {
    /// The step.
    pub step: DesignVector,
    /// How hard each constraint pushes, in their order.
    pub forces: Vec<f64>,
    /// Whether the last round over the constraints moved nothing any more. If not, the rounds ran out, as they do where
    /// constraints contradict each other, and the step is something in between.
    pub converged: bool,
}

/// The step that makes `sum of weight / 2 d^2 + pull . d` least within `limits`, as nearly as the rounds allow.
pub fn solve_qp(weight: &[f64], pull: &[f64], limits: &[Constraint]) -> QpStep {
    let mut step: DesignVector = pull.iter().zip(weight).map(|(p, w)| -p / w).collect();
    let mut force = vec![0.0_f64; limits.len()];
    let stiffness: Vec<f64> =
        limits.iter().map(|l| l.slope.iter().zip(weight).map(|(s, w)| s * s / w).sum::<f64>()).collect();
    // One limit brought home; by how much that moved it.
    let mut settle = |index: usize, force: &mut [f64]| {
        let (limit, stiff) = (&limits[index], stiffness[index]);
        let now = limit.value + limit.slope.iter().zip(&step).map(|(s, d)| s * d).sum::<f64>();
        let wanted = force[index] - now / stiff;
        let next = if limit.exact { wanted } else { wanted.max(0.0) };
        let change = next - force[index];
        if change != 0.0 {
            force[index] = next;
            for ((d, s), w) in step.iter_mut().zip(&limit.slope).zip(weight) {
                *d += s * change / w;
            }
        }
        (change * stiff).abs()
    };
    let all: Vec<usize> = (0..limits.len()).filter(|index| stiffness[*index] >= 1e-15).collect();
    let mut pushing: Vec<usize> = Vec::new();
    let (mut rounds, mut converged) = (0, false);
    while rounds < ROUNDS {
        rounds += 1;
        if all.iter().map(|index| settle(*index, &mut force)).fold(0.0, f64::max) < STILL {
            converged = true;
            break;
        }
        pushing.clear();
        pushing.extend(all.iter().filter(|index| limits[**index].exact || force[**index] > 0.0));
        for _ in 0..BETWEEN {
            rounds += 1;
            if pushing.iter().map(|index| settle(*index, &mut force)).fold(0.0, f64::max) < STILL {
                break;
            }
        }
    }
    QpStep { step, forces: force, converged }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn limit(slope: &[f64], value: f64, exact: bool) -> Constraint {
        Constraint { slope: slope.iter().copied().collect(), value, exact }
    }

    #[test]
    fn without_limits_it_goes_where_it_is_pulled() {
        let step = solve_qp(&[2.0, 2.0], &[4.0, -6.0], &[]).step;
        assert!((step[0] + 2.0).abs() < 1e-12 && (step[1] - 3.0).abs() < 1e-12);
    }

    #[test]
    fn an_exact_limit_holds_and_a_slack_one_does_nothing() {
        // Nearest point of x + y = 1 to the origin, with x at least -5.
        let step =
            solve_qp(&[1.0; 2], &[0.0; 2], &[limit(&[1.0, 1.0], -1.0, true), limit(&[1.0, 0.0], 5.0, false)]).step;
        assert!((step[0] - 0.5).abs() < 1e-6 && (step[1] - 0.5).abs() < 1e-6, "{step:?}");
    }

    #[test]
    fn two_limits_meet_in_their_corner() {
        // Pulled towards (-3, -3) but kept at x >= -1 and x + y >= -1.
        let step =
            solve_qp(&[1.0; 2], &[3.0; 2], &[limit(&[1.0, 0.0], 1.0, false), limit(&[1.0, 1.0], 1.0, false)]).step;
        assert!((step[0] + 0.5).abs() < 1e-5 && (step[1] + 0.5).abs() < 1e-5, "{step:?}");
    }

    #[test]
    fn limits_that_contradict_each_other_do_not_converge() {
        let apart = [limit(&[1.0, 0.0], -1.0, true), limit(&[1.0, 0.0], 1.0, true)];
        assert!(!solve_qp(&[1.0; 2], &[0.0; 2], &apart).converged);
        let beside = [limit(&[1.0, 0.0], -1.0, false), limit(&[-1.0, 0.0], -1.0, false)];
        assert!(!solve_qp(&[1.0; 2], &[0.0; 2], &beside).converged);
        assert!(solve_qp(&[1.0; 2], &[0.0; 2], &apart[..1]).converged);
    }
}
