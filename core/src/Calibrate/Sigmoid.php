<?php

declare(strict_types=1);

namespace Dokimos\Core\Calibrate;

use Dokimos\Core\Expression\Constant;
use Dokimos\Core\Expression\Expression;
use Dokimos\Core\Expression\Operation;
use Dokimos\Core\Expression\Operator;

/**
 * 1 / (1 + exp(-(a + b s))) of the log-odds s of a chance, by maximum likelihood (Platt 1999). Definition: docs/methods/calibration.md.
 */
final readonly class Sigmoid implements Calibrator
{
    public const NAME = 'sigmoid';
    /** Chances are held off 0 and 1 before their log-odds are taken. */
    private const LEAST = 1e-6;
    private const STEPS = 200;

    private function __construct(
        public float $a,
        public float $b,
        public float $logLikelihood = \NAN,
        public float $errorA = \NAN,
        public float $errorB = \NAN,
        public float $covariance = \NAN,
    ) {
    }

    /**
     * @param list<float>  $event   1 or 0 per row
     * @param list<float>  $chance  of the same rows
     * @param ?list<float> $weights
     * @param bool         $smooth  whether the targets are held off 0 and 1, as if one more row of each kind had been seen
     *
     * @throws CannotCalibrate when a kind of outcome is missing, all chances are the same, or the chances part both kinds without a fault
     */
    public static function fit(array $event, array $chance, ?array $weights = null, bool $smooth = false): self
    {
        [$yes, $no] = self::targets($event, $weights);
        if ($yes[1] <= 0.0 || $no[1] <= 0.0) {
            throw new CannotCalibrate('Chances are held against what came: rows of both kinds are needed.');
        }
        $target = $smooth ? [$no[0], $yes[0]] : [0.0, 1.0];
        $s = array_map(self::logOdds(...), $chance);
        [$a, $b] = [0.0, 1.0];
        [$last, $gradient, $h] = self::at($a, $b, $s, $event, $target, $weights);
        for ($step = 0; $step < self::STEPS; ++$step) {
            $det = $h[0] * $h[2] - $h[1] * $h[1];
            if ($det <= 1e-12 * $h[0] * $h[2] || !is_finite($det)) {
                throw new CannotCalibrate('All chances are alike, or they part both kinds without a fault: there is no curve to fit.');
            }
            $da = ($h[2] * $gradient[0] - $h[1] * $gradient[1]) / $det;
            $db = ($h[0] * $gradient[1] - $h[1] * $gradient[0]) / $det;
            // Half a step as long as the likelihood would fall.
            for ($part = 1.0; $part > 1e-10; $part /= 2) {
                $now = self::at($a + $part * $da, $b + $part * $db, $s, $event, $target, $weights);
                if ($now[0] >= $last - 1e-12 * abs($last)) {
                    break;
                }
            }
            $a += $part * $da;
            $b += $part * $db;
            [$last, $gradient, $h] = $now;
            if (abs($part * $da) <= 1e-13 * (1 + abs($a)) && abs($part * $db) <= 1e-13 * (1 + abs($b))) {
                break;
            }
        }
        $det = $h[0] * $h[2] - $h[1] * $h[1];

        return new self($a, $b, $last, sqrt(max(0.0, $h[2] / $det)), sqrt(max(0.0, $h[0] / $det)), -$h[1] / $det);
    }

    /**
     * Targets of both kinds, held off 0 and 1: (N1 + 1) / (N1 + 2) and 1 / (N0 + 2), with N the number, or the weight, of rows of a kind.
     *
     * @param list<float>  $event
     * @param ?list<float> $weights
     *
     * @return array{array{float, float}, array{float, float}} target and weight of rows with the event, and of the others
     */
    public static function targets(array $event, ?array $weights): array
    {
        $yes = $no = 0.0;
        foreach ($event as $i => $y) {
            if ($y > 0.5) {
                $yes += $weights[$i] ?? 1.0;
            } else {
                $no += $weights[$i] ?? 1.0;
            }
        }

        return [[($yes + 1) / ($yes + 2), $yes], [1 / ($no + 2), $no]];
    }

    /**
     * @param list<float>         $s
     * @param list<float>         $event
     * @param array{float, float} $target
     * @param ?list<float>        $weights
     *
     * @return array{float, array{float, float}, array{float, float, float}} log-likelihood, its slope, and the information
     */
    private static function at(float $a, float $b, array $s, array $event, array $target, ?array $weights): array
    {
        $likelihood = $ga = $gb = $haa = $hab = $hbb = 0.0;
        foreach ($s as $i => $v) {
            $z = $a + $b * $v;
            $w = $weights[$i] ?? 1.0;
            $t = $target[$event[$i] > 0.5 ? 1 : 0];
            // ln(1 + exp(z)) without running over.
            $soft = $z > 0.0 ? $z + log1p(exp(-$z)) : log1p(exp($z));
            $p = $z > 0.0 ? 1 / (1 + exp(-$z)) : exp($z) / (1 + exp($z));
            $likelihood += $w * ($t * $z - $soft);
            $r = $w * ($t - $p);
            $q = $w * $p * (1 - $p);
            $ga += $r;
            $gb += $r * $v;
            $haa += $q;
            $hab += $q * $v;
            $hbb += $q * $v * $v;
        }

        return [$likelihood, [$ga, $gb], [$haa, $hab, $hbb]];
    }

    public static function logOdds(float $chance): float
    {
        $c = max(self::LEAST, min(1 - self::LEAST, $chance));

        return log($c / (1 - $c));
    }

    public function of(float $chance): float
    {
        return is_nan($chance) ? \NAN : 1 / (1 + exp(-($this->a + $this->b * self::logOdds($chance))));
    }

    public function expression(Expression $chance): Expression
    {
        $held = Operation::of(
            Operator::Least,
            Operation::of(Operator::Most, $chance, new Constant(self::LEAST)),
            new Constant(1 - self::LEAST),
        );
        $odds = Operation::of(Operator::Log, Operation::of(Operator::Over, $held, Operation::of(Operator::Less, new Constant(1.0), $held)));

        return Operation::chance(Operation::sum([new Constant($this->a), Operation::of(Operator::Times, new Constant($this->b), $odds)]));
    }

    public function toArray(): array
    {
        return ['way' => self::NAME, 'a' => $this->a, 'b' => $this->b];
    }

    /** @param array<string, mixed> $kept */
    public static function read(array $kept): self
    {
        return new self(
            is_numeric($kept['a'] ?? null) ? (float) $kept['a'] : 0.0,
            is_numeric($kept['b'] ?? null) ? (float) $kept['b'] : 1.0,
        );
    }
}
