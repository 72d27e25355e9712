<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Bayes;

use Dokimos\Core\Expression\Expression;
use Dokimos\Core\Expression\Frame;
use Dokimos\Core\Table\Column;

/** A column of few values, by how often each occurs in a class: (count + smoothing) / (values there are + smoothing x levels). */
final readonly class CountFactor implements Factor
{
    /**
     * @param list<list<float>> $counts per class and value
     */
    public function __construct(private Discrete $values, private array $counts, private float $smoothing)
    {
    }

    /**
     * @param list<int>   $codes   of training rows; -1 = skipped
     * @param list<int>   $classes
     * @param list<float> $weights
     */
    public static function learn(Discrete $values, array $codes, array $classes, array $weights, int $many, float $smoothing): self
    {
        $counts = array_fill(0, $many, array_fill(0, $values->size(), 0.0));
        foreach ($codes as $i => $code) {
            if ($code >= 0) {
                $counts[$classes[$i]][$code] += $weights[$i];
            }
        }

        return new self($values, array_map(array_values(...), $counts), $smoothing);
    }

    public function column(): string
    {
        return $this->values->column;
    }

    /** @return list<float> */
    private function shares(int $class): array
    {
        $all = array_sum($this->counts[$class]) + $this->smoothing * $this->values->size();

        return array_map(
            fn (float $count): float => $all > 0.0 ? ($count + $this->smoothing) / $all : 1.0 / $this->values->size(),
            $this->counts[$class],
        );
    }

    public function logs(Column $column, array $rows): array
    {
        $codes = $this->values->codes($column, $rows);
        $out = [];
        foreach (array_keys($this->counts) as $class) {
            $logs = array_map(static fn (float $p): float => log(max(1e-300, $p)), $this->shares($class));
            $logs[-1] = 0.0;
            $own = [];
            foreach ($codes as $code) {
                $own[] = $logs[$code];
            }
            $out[] = $own;
        }

        return $out;
    }

    public function expressions(Frame $frame): array
    {
        return array_map(fn (int $class): Expression => $this->values->told(
            $frame,
            array_map(static fn (float $p): float => log(max(1e-300, $p)), $this->shares($class)),
            0.0,
        ), array_keys($this->counts));
    }

    public function values(): array
    {
        $shares = array_map($this->shares(...), array_keys($this->counts));
        $all = max(1e-300, array_sum(array_map(array_sum(...), $this->counts)));
        $out = [];
        for ($code = 0; $code < $this->values->size(); ++$code) {
            $out[] = [
                $this->values->label($code),
                array_sum(array_column($this->counts, $code)) / $all,
                array_map(static fn (array $own): float => log(max(1e-300, $own[$code])), $shares),
            ];
        }

        return $out;
    }

    public function parameters(int $class): array
    {
        $out = [];
        foreach ($this->shares($class) as $code => $share) {
            $out[$this->values->label($code)] = $share;
        }

        return ['categorical' => [$this->column() => $out]];
    }

    public function toArray(): array
    {
        return ['form' => 'counts', 'values' => $this->values->toArray(), 'counts' => $this->counts, 'smoothing' => $this->smoothing];
    }

    /** @param array<string, mixed> $data */
    public static function fromArray(array $data): self
    {
        /** @var array{values: array<string, mixed>, counts: list<list<float|int>>, smoothing: float|int} $data */
        return new self(
            Discrete::fromArray($data['values']),
            array_map(static fn (array $own): array => array_map(floatval(...), $own), $data['counts']),
            (float) $data['smoothing'],
        );
    }
}
