<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Network;

use Random\Randomizer;

/**
 * What goes forward and backward through a network. Loss of a row: of two classes and of several the negative logarithm of the chance of
 * what came, of a number half the squared error; the mean over rows, and half the price times all squared weights. Definition:
 * docs/methods/neural-network.md.
 */
final readonly class Net
{
    public const TWO = 'two classes';
    public const MORE = 'several classes';
    public const NUMBER = 'number';

    public function __construct(public Shape $shape, private bool $isRelu, private string $task)
    {
    }

    /**
     * Loss and its slope on some rows. Hot loop: all in one place, since every call would cost as much as a unit.
     *
     * @param list<float> $p       parameters
     * @param list<int>   $rows    places among the inputs
     * @param list<float> $y       outcome by place: 0 or 1, the place of the class, or a number
     * @param list<float> $w       weight by place
     * @param float       $l2      price of squared weights
     * @param float       $dropped share of hidden units that are left out at random
     *
     * @return array{float, list<float>} mean loss without what is paid for weights, and the slope with it
     */
    public function slope(
        array $p,
        Inputs $inputs,
        array $rows,
        array $y,
        array $w,
        float $l2,
        float $dropped = 0.0,
        ?Randomizer $random = null,
    ): array {
        $shape = $this->shape;
        [$sizes, $weightsAt, $biasesAt, $unitsAt] = [$shape->sizes, $shape->weightsAt, $shape->biasesAt, $shape->unitsAt];
        [$start, $index, $value, $levels] = [$inputs->start, $inputs->index, $inputs->value, $inputs->levels];
        [$embeds, $embedsAt, $embedsInto] = [$shape->embeds, $shape->embedsAt, $shape->embedsInto];
        $layers = \count($weightsAt);
        $isRelu = $this->isRelu;
        $task = $this->task;
        $g = array_fill(0, $shape->parameters, 0.0);
        $a = array_fill(0, $shape->units, 0.0);
        $d = array_fill(0, $shape->units, 0.0);
        $hidden = $unitsAt[$layers] - $sizes[0];
        $keep = 1.0 - $dropped;
        $limit = (int) round(256 * $dropped);
        $loss = $all = 0.0;
        foreach ($rows as $row) {
            $all += $w[$row];
        }
        $firstOut = $sizes[1];
        $firstWeights = $weightsAt[0];
        $firstUnits = $sizes[0];
        foreach ($rows as $row) {
            $mask = $dropped > 0.0 && null !== $random && $hidden > 0 ? $random->getBytes($hidden) : null;
            // Forward: the first layer reads only what is not 0.
            for ($j = 0, $at = $biasesAt[0]; $j < $firstOut; ++$j) {
                $a[$firstUnits + $j] = $p[$at + $j];
            }
            for ($e = $start[$row], $end = $start[$row + 1]; $e < $end; ++$e) {
                $v = $value[$e];
                $k = $firstWeights + $index[$e] * $firstOut;
                $to = $firstUnits;
                for ($j = 4; $j <= $firstOut; $j += 4, $k += 4, $to += 4) {
                    $a[$to] += $v * $p[$k];
                    $a[$to + 1] += $v * $p[$k + 1];
                    $a[$to + 2] += $v * $p[$k + 2];
                    $a[$to + 3] += $v * $p[$k + 3];
                }
                for ($j -= 4; $j < $firstOut; ++$j, ++$k, ++$to) {
                    $a[$to] += $v * $p[$k];
                }
            }
            foreach ($embeds as $m => [, $numbers]) {
                $from = $embedsAt[$m] + $levels[$m][$row] * $numbers;
                for ($t = 0; $t < $numbers; ++$t) {
                    $v = $p[$from + $t];
                    $k = $firstWeights + ($embedsInto[$m] + $t) * $firstOut;
                    for ($j = 0; $j < $firstOut; ++$j) {
                        $a[$firstUnits + $j] += $v * $p[$k + $j];
                    }
                }
            }
            for ($l = 1; $l <= $layers; ++$l) {
                $own = $unitsAt[$l];
                $many = $sizes[$l];
                if ($l < $layers) {
                    for ($i = $own, $end = $own + $many; $i < $end; ++$i) {
                        $v = $a[$i];
                        $a[$i] = $isRelu ? ($v > 0.0 ? $v : 0.0) : tanh($v);
                    }
                    if (null !== $mask) {
                        for ($i = $own; $i < $end; ++$i) {
                            $a[$i] = \ord($mask[$i - $firstUnits]) < $limit ? 0.0 : $a[$i] / $keep;
                        }
                    }
                    $next = $sizes[$l + 1];
                    $into = $unitsAt[$l + 1];
                    for ($j = 0, $at = $biasesAt[$l]; $j < $next; ++$j) {
                        $a[$into + $j] = $p[$at + $j];
                    }
                    for ($i = 0; $i < $many; ++$i) {
                        $v = $a[$own + $i];
                        if (0.0 === $v) {
                            continue;
                        }
                        $k = $weightsAt[$l] + $i * $next;
                        $to = $into;
                        for ($j = 4; $j <= $next; $j += 4, $k += 4, $to += 4) {
                            $a[$to] += $v * $p[$k];
                            $a[$to + 1] += $v * $p[$k + 1];
                            $a[$to + 2] += $v * $p[$k + 2];
                            $a[$to + 3] += $v * $p[$k + 3];
                        }
                        for ($j -= 4; $j < $next; ++$j, ++$k, ++$to) {
                            $a[$to] += $v * $p[$k];
                        }
                    }
                }
            }
            // What the loss rises with each output.
            $out = $unitsAt[$layers];
            $share = $w[$row] / $all;
            if (self::NUMBER === $task) {
                $r = $a[$out] - $y[$row];
                $loss += $share * 0.5 * $r * $r;
                $d[$out] = $share * $r;
            } elseif (self::TWO === $task) {
                $z = $a[$out];
                $soft = $z > 0.0 ? $z + log1p(exp(-$z)) : log1p(exp($z));
                $loss += $share * ($soft - $y[$row] * $z);
                $d[$out] = $share * (1.0 / (1.0 + exp(-$z)) - $y[$row]);
            } else {
                $outputs = $sizes[$layers];
                $most = $a[$out];
                for ($j = 1; $j < $outputs; ++$j) {
                    $most = $a[$out + $j] > $most ? $a[$out + $j] : $most;
                }
                $sum = 0.0;
                for ($j = 0; $j < $outputs; ++$j) {
                    $sum += $d[$out + $j] = exp($a[$out + $j] - $most);
                }
                $class = (int) $y[$row];
                $loss += $share * (log($sum) - ($a[$out + $class] - $most));
                for ($j = 0; $j < $outputs; ++$j) {
                    $d[$out + $j] = $share * ($d[$out + $j] / $sum - ($j === $class ? 1.0 : 0.0));
                }
            }
            // Backward; a unit that said nothing passes nothing on.
            for ($l = $layers - 1; $l >= 1; --$l) {
                $own = $unitsAt[$l];
                $many = $sizes[$l];
                $next = $sizes[$l + 1];
                $into = $unitsAt[$l + 1];
                for ($j = 0, $at = $biasesAt[$l]; $j < $next; ++$j) {
                    $g[$at + $j] += $d[$into + $j];
                }
                for ($i = 0; $i < $many; ++$i) {
                    $v = $a[$own + $i];
                    if (0.0 === $v && ($isRelu || null !== $mask)) {
                        $d[$own + $i] = 0.0;
                        continue;
                    }
                    $k = $weightsAt[$l] + $i * $next;
                    $to = $into;
                    $sum = 0.0;
                    for ($j = 4; $j <= $next; $j += 4, $k += 4, $to += 4) {
                        $q = $d[$to];
                        $sum += $q * $p[$k];
                        $g[$k] += $v * $q;
                        $q = $d[$to + 1];
                        $sum += $q * $p[$k + 1];
                        $g[$k + 1] += $v * $q;
                        $q = $d[$to + 2];
                        $sum += $q * $p[$k + 2];
                        $g[$k + 2] += $v * $q;
                        $q = $d[$to + 3];
                        $sum += $q * $p[$k + 3];
                        $g[$k + 3] += $v * $q;
                    }
                    for ($j -= 4; $j < $next; ++$j, ++$k, ++$to) {
                        $q = $d[$to];
                        $sum += $q * $p[$k];
                        $g[$k] += $v * $q;
                    }
                    if (null === $mask) {
                        $d[$own + $i] = $isRelu ? $sum : $sum * (1.0 - $v * $v);
                    } else {
                        $d[$own + $i] = ($isRelu ? $sum : $sum * (1.0 - $v * $keep * $v * $keep)) / $keep;
                    }
                }
            }
            for ($j = 0, $at = $biasesAt[0]; $j < $firstOut; ++$j) {
                $g[$at + $j] += $d[$firstUnits + $j];
            }
            for ($e = $start[$row], $end = $start[$row + 1]; $e < $end; ++$e) {
                $v = $value[$e];
                $k = $firstWeights + $index[$e] * $firstOut;
                $to = $firstUnits;
                for ($j = 4; $j <= $firstOut; $j += 4, $k += 4, $to += 4) {
                    $g[$k] += $v * $d[$to];
                    $g[$k + 1] += $v * $d[$to + 1];
                    $g[$k + 2] += $v * $d[$to + 2];
                    $g[$k + 3] += $v * $d[$to + 3];
                }
                for ($j -= 4; $j < $firstOut; ++$j, ++$k, ++$to) {
                    $g[$k] += $v * $d[$to];
                }
            }
            foreach ($embeds as $m => [, $numbers]) {
                $from = $embedsAt[$m] + $levels[$m][$row] * $numbers;
                for ($t = 0; $t < $numbers; ++$t) {
                    $v = $p[$from + $t];
                    $k = $firstWeights + ($embedsInto[$m] + $t) * $firstOut;
                    $sum = 0.0;
                    for ($j = 0; $j < $firstOut; ++$j) {
                        $q = $d[$firstUnits + $j];
                        $g[$k + $j] += $v * $q;
                        $sum += $q * $p[$k + $j];
                    }
                    $g[$from + $t] += $sum;
                }
            }
        }
        if ($l2 > 0.0) {
            foreach ($shape->heldBack() as $i => $isHeld) {
                if ($isHeld) {
                    $g[$i] += $l2 * $p[$i];
                }
            }
        }

        return [$loss, array_values($g)];
    }

    /**
     * What is paid for squared weights.
     *
     * @param list<float> $p
     */
    public function paid(array $p, float $l2): float
    {
        $sum = 0.0;
        foreach ($this->shape->heldBack() as $i => $isHeld) {
            $sum += $isHeld ? $p[$i] * $p[$i] : 0.0;
        }

        return $l2 / 2 * $sum;
    }

    /**
     * What comes out for each row, before it becomes a chance. Hot loop.
     *
     * @param list<float> $p
     *
     * @return list<list<float>> per output, one a row
     */
    public function outputs(array $p, Inputs $inputs): array
    {
        $out = array_fill(0, $this->shape->outputs, []);
        $last = $this->shape->unitsAt[\count($this->shape->weightsAt)];
        for ($row = 0; $row < $inputs->rows; ++$row) {
            $a = $this->units($p, $inputs, $row);
            for ($j = 0; $j < $this->shape->outputs; ++$j) {
                $out[$j][] = $a[$last + $j];
            }
        }

        return array_values($out);
    }

    /**
     * All units for one row, by Shape::$unitsAt; those of the inputs are left at 0.
     *
     * @param list<float> $p
     *
     * @return list<float>
     */
    public function units(array $p, Inputs $inputs, int $row): array
    {
        $shape = $this->shape;
        [$sizes, $unitsAt] = [$shape->sizes, $shape->unitsAt];
        $layers = \count($shape->weightsAt);
        $a = array_fill(0, $shape->units, 0.0);
        $next = $sizes[1];
        $into = $unitsAt[1];
        for ($j = 0, $at = $shape->biasesAt[0]; $j < $next; ++$j) {
            $a[$into + $j] = $p[$at + $j];
        }
        for ($e = $inputs->start[$row], $end = $inputs->start[$row + 1]; $e < $end; ++$e) {
            $v = $inputs->value[$e];
            $k = $shape->weightsAt[0] + $inputs->index[$e] * $next;
            for ($j = 0; $j < $next; ++$j) {
                $a[$into + $j] += $v * $p[$k + $j];
            }
        }
        foreach ($shape->embeds as $m => [, $numbers]) {
            $from = $shape->embedsAt[$m] + $inputs->levels[$m][$row] * $numbers;
            for ($t = 0; $t < $numbers; ++$t) {
                $v = $p[$from + $t];
                $k = $shape->weightsAt[0] + ($shape->embedsInto[$m] + $t) * $next;
                for ($j = 0; $j < $next; ++$j) {
                    $a[$into + $j] += $v * $p[$k + $j];
                }
            }
        }
        for ($l = 1; $l < $layers; ++$l) {
            $next = $sizes[$l + 1];
            $into = $unitsAt[$l + 1];
            for ($j = 0, $at = $shape->biasesAt[$l]; $j < $next; ++$j) {
                $a[$into + $j] = $p[$at + $j];
            }
            for ($i = 0, $own = $unitsAt[$l]; $i < $sizes[$l]; ++$i) {
                $v = $a[$own + $i];
                $v = $a[$own + $i] = $this->isRelu ? ($v > 0.0 ? $v : 0.0) : tanh($v);
                if (0.0 === $v) {
                    continue;
                }
                $k = $shape->weightsAt[$l] + $i * $next;
                for ($j = 0; $j < $next; ++$j) {
                    $a[$into + $j] += $v * $p[$k + $j];
                }
            }
        }

        return array_values($a);
    }

    /**
     * Mean loss of rows, without what is paid for weights.
     *
     * @param list<float> $p
     * @param list<float> $y one per row of the inputs
     * @param list<float> $w
     */
    public function loss(array $p, Inputs $inputs, array $y, array $w): float
    {
        $loss = 0.0;
        $outputs = $this->outputs($p, $inputs);
        foreach ($y as $row => $truth) {
            $z = $outputs[0][$row];
            if (self::NUMBER === $this->task) {
                $own = 0.5 * ($z - $truth) ** 2;
            } elseif (self::TWO === $this->task) {
                $own = ($z > 0.0 ? $z + log1p(exp(-$z)) : log1p(exp($z))) - $truth * $z;
            } else {
                $all = array_column($outputs, $row);
                $most = max([-\INF, ...$all]);
                $own = log(array_sum(array_map(static fn (float $v): float => exp($v - $most), $all))) - ($all[(int) $truth] - $most);
            }
            $loss += $w[$row] * $own;
        }

        return $loss / max(1e-300, array_sum($w));
    }
}
