<?php

declare(strict_types=1);

namespace Dokimos\Core\Decide;

use Dokimos\Core\Explain\Sure;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Task\CutOff;
use Dokimos\Core\Task\Task;

/**
 * How scored records are written as a table: carried columns, then what the model says, and why. One form for downloads and the command
 * line.
 */
final readonly class ScoredList
{
    /** Digits of a chance, and of a number, unless all are asked for. */
    private const CHANCE_DIGITS = 4;
    private const NUMBER_DIGITS = 6;

    /**
     * @param ?CutOff $cutoff null = nobody is called
     * @param bool    $full   numbers with every digit
     * @param ?Sure   $sure   how sure each answer is, in columns of its own; null = it is not said
     * @param ?string $as     name of the answer; null = the target's
     * @param ?string $status of the model: draft, or approved; null = it is not said
     */
    public function __construct(
        private ScoredColumns $columns,
        private ?CutOff $cutoff,
        private bool $full = false,
        private ?Sure $sure = null,
        private ?string $as = null,
        private ?string $status = null,
    ) {
    }

    /**
     * @param list<string> $carry
     *
     * @return list<string> heads of the columns, in the order of cells()
     */
    public function header(array $carry): array
    {
        $name = static fn (string $of): string => (string) preg_replace('/[^\pL\pN]+/u', '_', $of);
        $target = $name($this->as ?? $this->columns->target);

        return [...$carry, ...match ($this->columns->task) {
            Task::TWO => [$target.'_chance', 'called'],
            Task::MORE => [
                $target.'_predicted',
                ...array_map(static fn (string $c): string => $target.'_chance_'.$name($c), $this->columns->classes),
            ],
            default => [$target.'_predicted'],
        }, ...$this->sureOf($target), 'because', ...(null === $this->status ? [] : ['status'])];
    }

    /** @return list<string> heads of how sure an answer is */
    private function sureOf(string $target): array
    {
        return null === $this->sure ? [] : match ($this->columns->task) {
            Task::TWO => [$target.'_came_among_similar', $target.'_came_low', $target.'_came_high'],
            Task::MORE => [$target.'_set_90'],
            default => [$target.'_low_80', $target.'_high_80', $target.'_low_95', $target.'_high_95'],
        };
    }

    /**
     * @param list<?string>                                                                                                $carried
     * @param array{chance: ?float, number?: ?float, class?: ?string, shares?: list<float>, why: ?string, reasons: string} $line
     *
     * @return list<?string> one record as it is written; null = an empty cell
     */
    public function cells(array $carried, array $line): array
    {
        return [...$carried, ...match ($this->columns->task) {
            Task::TWO => [
                $this->chance($line['chance']),
                null === $line['chance'] || null === $this->cutoff ? null : ($this->cutoff->calls($line['chance']) ? 'yes' : 'no'),
            ],
            Task::MORE => [
                $line['class'] ?? null,
                ...array_map(fn (int $k): ?string => $this->chance($line['shares'][$k] ?? null), array_keys($this->columns->classes)),
            ],
            default => [$this->number($line['number'] ?? null)],
        }, ...$this->how($line), $line['why'] ?? $line['reasons'], ...(null === $this->status ? [] : [$this->status])];
    }

    /**
     * How sure an answer is: the share among records of similar chance with its interval, intervals of 80 and 95 in 100 records, or the set
     * that
     * holds what comes in 90.
     *
     * @param array{chance: ?float, number?: ?float, class?: ?string, shares?: list<float>, why: ?string, reasons: string} $line
     *
     * @return list<?string>
     */
    private function how(array $line): array
    {
        if (null === $this->sure) {
            return [];
        }
        if (Task::TWO === $this->columns->task) {
            $told = null === $line['chance'] ? null : $this->sure->ofChance($line['chance']);

            return array_map(
                $this->chance(...),
                [$told['interval']->value ?? null, $told['interval']->low ?? null, $told['interval']->high ?? null],
            );
        }
        if (Task::MORE === $this->columns->task) {
            return [[] === ($line['shares'] ?? []) ? null : implode(' | ', $this->sure->ofClasses($line['shares']))];
        }
        $number = $line['number'] ?? null;
        $ends = [
            ...(null === $number ? null : $this->sure->ofNumber($number, 80)) ?? [null, null],
            ...(null === $number ? null : $this->sure->ofNumber($number, 95)) ?? [null, null],
        ];

        return array_map($this->number(...), $ends);
    }

    private function number(?float $number): ?string
    {
        return null === $number ? null : NumberColumn::write(
            $this->full ? $number : (float) \sprintf('%.'.self::NUMBER_DIGITS.'G', $number),
        );
    }

    private function chance(?float $chance): ?string
    {
        return null === $chance ? null : NumberColumn::write($this->full ? $chance : round($chance, self::CHANCE_DIGITS));
    }
}
