<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Neighbors;

use Dokimos\Core\Task\Task;

/** What the nearest rows say together. */
final readonly class Votes
{
    public const ALIKE = 'all alike';
    public const NEARER = 'nearer ones more';
    private const LEAST = 1e-15;

    /**
     * @param list<float>   $outcome of training rows: a number, or the place of the class
     * @param ?list<float>  $weights of training rows
     * @param ?list<string> $classes
     * @param list<float>   $overall share of each class, or the mean alone
     */
    private function __construct(
        public array $outcome,
        private ?array $weights,
        public ?array $classes,
        public array $overall,
        private string $how,
        private float $smoothing,
    ) {
    }

    /** @param list<int> $rows */
    public static function of(Task $task, array $rows, string $how, float $smoothing): self
    {
        $outcome = array_map(static fn (int $row): float => $task->outcome[$row], $rows);
        $weights = null === $task->weights ? null : array_map(static fn (int $row): float => $task->weights[$row], $rows);
        $sums = array_fill(0, \count($task->classes ?? [0]), 0.0);
        $all = 0.0;
        foreach ($outcome as $i => $y) {
            $w = $weights[$i] ?? 1.0;
            $all += $w;
            $sums[null === $task->classes ? 0 : (int) $y] += $w * (null === $task->classes ? $y : 1.0);
        }

        return new self(
            $outcome,
            $weights,
            $task->classes,
            array_values(array_map(static fn (float $s): float => $s / $all, $sums)),
            $how,
            $smoothing,
        );
    }

    /**
     * @param list<int>   $rows      the nearest first
     * @param list<float> $distances
     *
     * @return list<float> chances of classes, or a number alone
     */
    public function said(array $rows, array $distances): array
    {
        $near = self::NEARER === $this->how;
        $touch = $near && 0.0 === ($distances[0] ?? 1.0);
        $sums = array_fill(0, \count($this->overall), 0.0);
        $all = 0.0;
        foreach ($rows as $i => $row) {
            $d = $distances[$i];
            $v = !$near ? 1.0 : ($touch ? (0.0 === $d ? 1.0 : 0.0) : $distances[0] / $d);
            $w = $v * ($this->weights[$row] ?? 1.0);
            $all += $w;
            if (null === $this->classes) {
                $sums[0] += $w * $this->outcome[$row];
            } else {
                $sums[(int) $this->outcome[$row]] += $w;
            }
        }
        if (null === $this->classes) {
            return [$all > 0.0 ? $sums[0] / $all : $this->overall[0]];
        }
        // Weights count as so many records as there are: what is added stays the same beside them.
        $count = \count($rows) / max(1e-300, $all);
        $out = [];
        foreach ($sums as $class => $sum) {
            $out[] = ($sum * $count + $this->smoothing * $this->overall[$class]) / max(1e-300, \count($rows) + $this->smoothing);
        }
        $held = array_map(static fn (float $p): float => max(self::LEAST, $p), $out);
        if (2 === \count($held)) {
            $p = min(1.0 - self::LEAST, $held[1]);

            return [1.0 - $p, $p];
        }
        $sum = array_sum($held);

        return array_map(static fn (float $p): float => $p / $sum, $held);
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        return [
            'outcome' => base64_encode(pack('e*', ...$this->outcome)),
            'weights' => null === $this->weights ? null : base64_encode(pack('e*', ...$this->weights)),
            'classes' => $this->classes,
            'overall' => $this->overall,
            'how' => $this->how,
            'smoothing' => $this->smoothing,
        ];
    }

    /** @return list<float> */
    private static function unpacked(string $bytes): array
    {
        /** @var list<float> */
        return array_values(unpack('e*', (string) base64_decode($bytes, true)) ?: []);
    }

    /** @param array<string, mixed> $data */
    public static function fromArray(array $data): self
    {
        /** @var array{outcome: string, weights: ?string, classes: ?list<string>, overall: list<float|int>, how: string, smoothing: float|int} $data */
        return new self(
            self::unpacked($data['outcome']),
            null === $data['weights'] ? null : self::unpacked($data['weights']),
            $data['classes'],
            array_map(floatval(...), $data['overall']),
            $data['how'],
            (float) $data['smoothing'],
        );
    }
}
