<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Boosting;

/** What boosting makes small. Formulas: docs/methods/boosting.md. */
enum Loss: string
{
    case Squared = 'squared error';
    case Log = 'log loss';
    case Several = 'log loss of several classes';
    case Poisson = 'Poisson';
    case Quantile = 'quantile';

    /** What a sum of trees means: a number, a mean count, or the chance of the event. */
    public function answer(float $sum): float
    {
        return match ($this) {
            self::Log => $sum >= 0.0 ? 1.0 / (1.0 + exp(-$sum)) : exp($sum) / (1.0 + exp($sum)),
            self::Poisson => exp(min(50.0, $sum)),
            default => $sum,
        };
    }

    /**
     * Downhill slope and curvature of the loss of each row. Hot loop.
     *
     * @param list<float>  $y
     * @param list<float>  $sums
     * @param ?list<float> $weights
     *
     * @return array{list<float>, list<float>}
     */
    public function slopes(array $y, array $sums, ?array $weights, float $quantile): array
    {
        $g = $h = [];
        switch ($this) {
            case self::Log:
                foreach ($sums as $i => $f) {
                    $p = 1.0 / (1.0 + exp(-$f));
                    $g[] = $y[$i] - $p;
                    $h[] = $p * (1.0 - $p);
                }
                break;
            case self::Poisson:
                foreach ($sums as $i => $f) {
                    $m = exp(min(50.0, $f));
                    $g[] = $y[$i] - $m;
                    $h[] = $m;
                }
                break;
            case self::Quantile:
                foreach ($sums as $i => $f) {
                    $g[] = $y[$i] > $f ? $quantile : $quantile - 1.0;
                    $h[] = 1.0;
                }
                break;
            default:
                foreach ($sums as $i => $f) {
                    $g[] = $y[$i] - $f;
                    $h[] = 1.0;
                }
        }
        foreach ($weights ?? [] as $i => $w) {
            $g[$i] *= $w;
            $h[$i] *= $w;
        }

        return [array_values($g), array_values($h)];
    }

    /**
     * Mean loss.
     *
     * @param list<float>       $y
     * @param list<list<float>> $sums    one list, or one per class
     * @param ?list<float>      $weights
     */
    public function mean(array $y, array $sums, ?array $weights, float $quantile): float
    {
        $loss = $all = 0.0;
        if (self::Log === $this && null === $weights && [] !== $y) {
            // What is asked every round gets a loop of its own.
            $own = $sums[0];
            foreach ($y as $i => $truth) {
                $x = $truth > 0.5 ? -$own[$i] : $own[$i];
                $loss += $x > 0.0 ? $x + log1p(exp(-$x)) : log1p(exp($x));
            }

            return $loss / \count($y);
        }
        foreach ($y as $i => $truth) {
            $w = null === $weights ? 1.0 : $weights[$i];
            $all += $w;
            $f = $sums[0][$i];
            $loss += $w * match ($this) {
                self::Squared => ($truth - $f) ** 2,
                // ln(1 + e^-m) of the margin m, without overflow.
                self::Log => self::softplus($truth > 0.5 ? -$f : $f),
                self::Poisson => exp(min(50.0, $f)) - $truth * $f,
                self::Quantile => $truth > $f ? $quantile * ($truth - $f) : ($quantile - 1.0) * ($truth - $f),
                self::Several => self::ofSeveral((int) $truth, $sums, $i),
            };
        }

        return $all > 0.0 ? $loss / $all : 0.0;
    }

    private static function softplus(float $x): float
    {
        return $x > 0.0 ? $x + log1p(exp(-$x)) : log1p(exp($x));
    }

    /** @param list<list<float>> $sums */
    private static function ofSeveral(int $class, array $sums, int $i): float
    {
        $most = -\INF;
        foreach ($sums as $own) {
            $most = max($most, $own[$i]);
        }
        $all = 0.0;
        foreach ($sums as $own) {
            $all += exp($own[$i] - $most);
        }

        return log($all) - ($sums[$class][$i] - $most);
    }

    /**
     * Chances of several classes from their sums.
     *
     * @param list<list<float>> $sums per class
     *
     * @return list<list<float>> per class
     */
    public static function shares(array $sums): array
    {
        $out = array_fill(0, \count($sums), []);
        foreach (array_keys($sums[0] ?? []) as $i) {
            $most = -\INF;
            foreach ($sums as $own) {
                $most = max($most, $own[$i]);
            }
            $all = 0.0;
            $raised = [];
            foreach ($sums as $k => $own) {
                $all += $raised[$k] = exp($own[$i] - $most);
            }
            foreach ($raised as $k => $e) {
                $out[$k][] = $e / $all;
            }
        }

        return $out;
    }
}
