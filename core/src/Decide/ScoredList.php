<?php

declare(strict_types=1);

namespace Dokimos\Core\Decide;

use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Task\CutOff;
use Dokimos\Core\Task\Task;

/** How scored records are written as a table: carried columns, then what the model says, and why. One form for downloads and the command line. */
final readonly class ScoredList
{
    /** Digits of a chance, and of a number, unless all are asked for. */
    private const CHANCE_DIGITS = 4;
    private const NUMBER_DIGITS = 6;

    /**
     * @param ?CutOff $cutoff null = nobody is called
     * @param bool    $full   numbers with every digit
     */
    public function __construct(private ScoredColumns $columns, private ?CutOff $cutoff, private bool $full = false)
    {
    }

    /**
     * @param list<string> $carry
     *
     * @return list<string>
     */
    public function header(array $carry): array
    {
        $name = static fn (string $of): string => (string) preg_replace('/[^\pL\pN]+/u', '_', $of);
        $target = $name($this->columns->target);

        return [...$carry, ...match ($this->columns->task) {
            Task::TWO => [$target.'_chance', 'called'],
            Task::MORE => [$target.'_predicted', ...array_map(static fn (string $c): string => $target.'_chance_'.$name($c), $this->columns->classes)],
            default => [$target.'_predicted'],
        }, 'because'];
    }

    /**
     * @param list<?string>                                                                                                $carried
     * @param array{chance: ?float, number?: ?float, class?: ?string, shares?: list<float>, why: ?string, reasons: string} $line
     *
     * @return list<?string>
     */
    public function cells(array $carried, array $line): array
    {
        return [...$carried, ...match ($this->columns->task) {
            Task::TWO => [$this->chance($line['chance']), null === $line['chance'] || null === $this->cutoff ? null : ($this->cutoff->calls($line['chance']) ? 'yes' : 'no')],
            Task::MORE => [$line['class'] ?? null, ...array_map(fn (int $k): ?string => $this->chance($line['shares'][$k] ?? null), array_keys($this->columns->classes))],
            default => [isset($line['number']) ? NumberColumn::write($this->full ? $line['number'] : (float) \sprintf('%.'.self::NUMBER_DIGITS.'G', $line['number'])) : null],
        }, $line['why'] ?? $line['reasons']];
    }

    private function chance(?float $chance): ?string
    {
        return null === $chance ? null : NumberColumn::write($this->full ? $chance : round($chance, self::CHANCE_DIGITS));
    }
}
