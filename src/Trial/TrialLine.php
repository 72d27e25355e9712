<?php

declare(strict_types=1);

namespace App\Trial;

use Dokimos\Core\Figure\Figure;
use Dokimos\Core\Figure\Figures;
use Dokimos\Core\Task\Task;

/** The few values of a finished trial that a list shows, kept with the trial itself. */
final readonly class TrialLine
{
    /**
     * @param string               $task       what it predicts
     * @param ?float               $value      of the figure that ranks: mean over the folds, with its interval
     * @param ?float               $training   the same on its own training rows
     * @param list<?float>         $each       one per fold and repeat; null where it is not defined
     * @param bool                 $pooled     whether the folds of a repeat are judged together, since some hold too few events
     * @param bool                 $full       whether every row has an answer in every repeat
     * @param ?float               $baseline   what doing nothing clever scores
     * @param ?float               $baseRate   share of the judged rows with the event
     * @param int                  $unanswered of the judged rows
     * @param string               $size       how much there is to read
     * @param int                  $columns    that the model asks for
     * @param ?string              $weight     the column by which records counted
     * @param int                  $weightless rows that had no weight above 0
     * @param ?float               $weightSum  what the open rows stand for together
     * @param array<string, mixed> $others     the same of every other figure that ranks, by its key
     */
    private function __construct(
        public string $task,
        public ?float $value,
        public ?float $low,
        public ?float $high,
        public ?float $training,
        public array $each,
        public bool $pooled,
        public bool $full,
        public ?float $baseline,
        public ?float $baseRate,
        public int $rows,
        public int $unanswered,
        public string $size,
        public int $columns,
        public ?string $weight,
        public int $weightless,
        public ?float $weightSum,
        public array $others = [],
        public ?int $reading = null,
        public ?float $reached = null,
    ) {
    }

    /**
     * @param array<string, mixed> $figures of a trial, of this version or an earlier one
     * @param string               $usual   what is predicted where the figures do not say
     */
    public static function ofFigures(array $figures, string $usual): self
    {
        /** @var array{each?: list<?float>, auc?: list<?float>, value?: ?float, low?: ?float, high?: ?float, training?: ?float, pooled?: bool} $folds */
        $folds = \is_array($figures['folds'] ?? null) ? $figures['folds'] : [];
        $task = \is_string($figures['task'] ?? null) ? $figures['task'] : (\array_key_exists('auc', $figures) ? Task::TWO : $usual);
        $key = Figures::ranking($task)->key;
        /** @var array{value?: ?float, low?: ?float, high?: ?float} $pooled */
        $pooled = \is_array($figures[$key] ?? null) ? $figures[$key] : [];
        $baseline = \is_array($figures['baseline'] ?? null) ? $figures['baseline'][$key] ?? null : null;
        /** @var array{column?: string, without?: int, sum?: float|int} $weight */
        $weight = \is_array($figures['weight'] ?? null) ? $figures['weight'] : [];
        $main = isset($folds['value']) ? $folds : $pooled;
        $number = static fn (mixed $v): ?float => is_numeric($v) ? (float) $v : null;
        $whole = static fn (string $name): int => \is_int($figures[$name] ?? null) ? $figures[$name] : 0;

        return new self(
            $task,
            $main['value'] ?? null,
            $main['low'] ?? null,
            $main['high'] ?? null,
            $folds['training'] ?? null,
            // Trials of before had nothing but AUC to keep.
            $folds['each'] ?? $folds['auc'] ?? [],
            $folds['pooled'] ?? false,
            true === ($figures['full'] ?? null),
            $number($baseline),
            $number($figures['baseRate'] ?? null),
            $whole('rows'),
            $whole('unanswered'),
            \is_string($figures['size'] ?? null) ? $figures['size'] : '',
            $whole('columns'),
            $weight['column'] ?? null,
            $weight['without'] ?? 0,
            $number($weight['sum'] ?? null),
            self::others($figures, $task),
            \is_int($figures['reading'] ?? null) ? $figures['reading'] : null,
            self::reached($figures),
        );
    }

    /** @param array<string, mixed> $figures */
    private static function reached(array $figures): ?float
    {
        $third = \is_array($figures['tenths'] ?? null) && Task::TWO === ($figures['task'] ?? null) ? $figures['tenths'][2] ?? null : null;

        return \is_array($third) && is_numeric($third['cumulative_gain'] ?? null) ? (float) $third['cumulative_gain'] : null;
    }

    /**
     * @param array<string, mixed> $figures
     *
     * @return array<string, mixed>
     */
    private static function others(array $figures, string $task): array
    {
        $out = [];
        $by = \is_array($figures['by'] ?? null) ? $figures['by'] : [];
        foreach (Figures::of($task) as $figure) {
            $own = $by[$figure->key] ?? $figures[$figure->key] ?? null;
            if (!$figure->ranks || $figure->key === Figures::ranking($task)->key || !\is_array($own)) {
                continue;
            }
            $baseline = \is_array($figures['baseline'] ?? null) ? $figures['baseline'][$figure->key] ?? null : null;
            $out[$figure->key] = array_intersect_key(
                $own,
                ['value' => 1, 'low' => 1, 'high' => 1, 'each' => 1, 'pooled' => 1],
            ) + ['baseline' => $baseline];
        }

        return $out;
    }

    /**
     * The same line by another figure.
     *
     * @param ?\Closure(): array<string, mixed> $figures of the trial, for lines that were kept before they told all figures
     */
    public function by(Figure $figure, ?\Closure $figures): self
    {
        $known = \is_array($this->others[$figure->key] ?? null) ? $this->others : (null === $figures ? [] : self::others($figures(), $this->task));
        /** @var array{value?: float|int|null, low?: float|int|null, high?: float|int|null, each?: list<float|int|null>, pooled?: bool, baseline?: float|int|null} $own */
        $own = \is_array($known[$figure->key] ?? null) ? $known[$figure->key] : [];
        $float = static fn (float|int|null $v): ?float => null === $v ? null : (float) $v;

        return new self(...[
            'value' => $float($own['value'] ?? null), 'low' => $float($own['low'] ?? null), 'high' => $float($own['high'] ?? null),
            'training' => null, 'each' => array_map($float, $own['each'] ?? []), 'pooled' => $own['pooled'] ?? false,
            'baseline' => $float($own['baseline'] ?? null),
        ] + get_object_vars($this));
    }

    /** With what luck had added taken out: of the figure, and of its folds alike. */
    public function corrected(Figure $figure, Chosen $chosen): self
    {
        $luck = ($this->value ?? $chosen->searching) - $chosen->value;

        return new self(...[
            'value' => $chosen->value, 'low' => $chosen->low, 'high' => $chosen->high,
            'each' => array_map(static fn (?float $v): ?float => null === $v ? null : $v - $luck, $this->each),
        ] + get_object_vars($this));
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        return get_object_vars($this);
    }

    /** @param array<string, mixed> $kept */
    public static function fromArray(array $kept): self
    {
        /** @var array{task: string, value: float|int|null, low: float|int|null, high: float|int|null, training: float|int|null, each: list<float|int|null>, pooled: bool, full: bool, baseline: float|int|null, baseRate: float|int|null, rows: int, unanswered: int, size: string, columns: int, weight: ?string, weightless: int, weightSum: float|int|null, others?: array<string, mixed>, reading?: ?int, reached?: float|int|null} $k */
        $k = $kept;
        $float = static fn (float|int|null $v): ?float => null === $v ? null : (float) $v;

        return new self(
            $k['task'],
            $float($k['value']),
            $float($k['low']),
            $float($k['high']),
            $float($k['training']),
            array_map($float, $k['each']),
            $k['pooled'],
            $k['full'],
            $float($k['baseline']),
            $float($k['baseRate']),
            $k['rows'],
            $k['unanswered'],
            $k['size'],
            $k['columns'],
            $k['weight'],
            $k['weightless'],
            $float($k['weightSum']),
            $k['others'] ?? [],
            $k['reading'] ?? null,
            $float($k['reached'] ?? null),
        );
    }

    /** Of a trial that is not done. */
    public static function none(string $task): self
    {
        return new self($task, null, null, null, null, [], false, false, null, null, 0, 0, '', 0, null, 0, null);
    }
}
