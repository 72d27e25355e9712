<?php

declare(strict_types=1);

namespace Dokimos\Core\TakeAway;

use Dokimos\Core\Task\Answers;

/** That a taken-away model was run by somebody else, and answered as it does here. */
final readonly class Proof implements \JsonSerializable
{
    /**
     * @param string             $by      what ran it
     * @param int                $records compared
     * @param int                $silent  of them without an answer, here as there
     * @param float              $largest difference between two answers
     * @param float              $within  what it may be, of answers above 1 in proportion
     * @param list<int>          $apart   places of records that differ by more, or are answered here or there alone; the first of them
     * @param array<string, int> $made    records by sort
     */
    private function __construct(
        public string $by,
        public int $records,
        public int $silent,
        public float $largest,
        public float $within,
        public array $apart,
        public array $made,
    ) {
    }

    /** @param list<list<?float>> $found per record, in the order of the program's answers; null = none */
    public static function of(string $by, Answers $wanted, array $found, Sample $sample, float $within): self
    {
        return self::compared($by, $wanted, $found, $sample->made, $within);
    }

    /**
     * On records as they lie.
     *
     * @param list<list<?float>> $found
     */
    public static function onRows(string $by, Answers $wanted, array $found, float $within): self
    {
        return self::compared($by, $wanted, $found, ['real' => $wanted->rows()], $within);
    }

    /**
     * @param list<list<?float>> $found
     * @param array<string, int> $made
     */
    private static function compared(string $by, Answers $wanted, array $found, array $made, float $within): self
    {
        $largest = 0.0;
        $silent = 0;
        $apart = [];
        for ($row = 0, $n = $wanted->rows(); $row < $n; ++$row) {
            $same = \count($found[$row] ?? []) === $wanted->width;
            $silent += $wanted->isKnown($row) ? 0 : 1;
            foreach ($wanted->of($row) as $k => $value) {
                $other = $found[$row][$k] ?? null;
                if (is_nan($value) || null === $other || is_nan($other)) {
                    $same = $same && is_nan($value) && (null === $other || is_nan($other));
                    continue;
                }
                $differs = abs($value - $other) / max(1.0, abs($value));
                $largest = max($largest, $differs);
                $same = $same && $differs <= $within;
            }
            if (!$same) {
                $apart[] = $row;
            }
        }

        return new self($by, $wanted->rows(), $silent, $largest, $within, \array_slice($apart, 0, 20), $made);
    }

    public function holds(): bool
    {
        return $this->records > 0 && [] === $this->apart;
    }

    public function sentence(): string
    {
        return $this->holds()
            ? \sprintf(
                'Run by %s on %s records, its answers are the same: the largest difference is %.1e, of %.0e allowed.',
                $this->by,
                number_format($this->records),
                $this->largest,
                $this->within,
            )
            : \sprintf(
                'Run by %s on %s records, %d of them are answered otherwise, by up to %.1e.',
                $this->by,
                number_format($this->records),
                \count($this->apart),
                $this->largest,
            );
    }

    /** @return array<string, mixed> */
    public function jsonSerialize(): array
    {
        return [
            'by' => $this->by,
            'holds' => $this->holds(),
            'says' => $this->sentence(),
            'records' => $this->records,
            'silent' => $this->silent,
            'largest' => $this->largest,
            'within' => $this->within,
            'apart' => $this->apart,
            'made' => $this->made,
        ];
    }
}
