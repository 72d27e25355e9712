<?php

declare(strict_types=1);

namespace Dokimos\Core\Prepare;

use Dokimos\Core\Profile\EntropyBins;
use Dokimos\Core\Profile\QuantileBins;
use Dokimos\Core\Profile\ScaledBins;
use Dokimos\Core\Setting;
use Dokimos\Core\Table\Kind;

/** Puts numbers into bins with cut points learned on training rows, or said. */
final readonly class Bins implements Step
{
    public const WIDTH = 'equal width';
    public const FREQUENCY = 'equal frequency';
    public const ROOT = 'square root of rows';
    public const TARGET = 'by the target';
    public const OWN = 'own cut points';
    public const METHODS = [self::FREQUENCY, self::WIDTH, self::ROOT, self::TARGET, self::OWN];
    public const CATEGORY = 'one category';
    public const MARKS = 'ordered yes/no marks';
    /** More than so many bins of a square root serve nobody. */
    private const MOST = 100;

    /** @param list<float> $cuts own cut points, ascending */
    public function __construct(private Chosen $columns, private string $method, private int $bins, private array $cuts, private string $as)
    {
    }

    public static function described(): Described
    {
        return new Described('bins', 'Bins', 'values', 'Puts numbers into bins, as one category or as yes/no marks that keep their order.', [
            new Setting('columns', 'Columns', Setting::COLUMNS, kinds: [Kind::Number->value]),
            new Setting('method', 'of', Setting::CHOICE, choices: self::METHODS, default: self::FREQUENCY, explanation: 'By the target: cuts where the share of the event changes more than chance would (entropy, minimum description length).'),
            new Setting('bins', 'how many', Setting::NUMBER, default: 5, least: 2, most: self::MOST, when: ['method' => [self::WIDTH, self::FREQUENCY]]),
            new Setting('cuts', 'cut points', Setting::NUMBERS, when: ['method' => [self::OWN]], explanation: 'A bin holds what is above one cut point, up to and with the next.'),
            new Setting('as', 'as', Setting::CHOICE, choices: [self::CATEGORY, self::MARKS], default: self::CATEGORY),
        ]);
    }

    /** @throws CannotPrepare Say at least one cut point. At most … cut points. */
    public static function fromSettings(Settings $given): self
    {
        $method = $given->choice('method', self::METHODS);
        $cuts = self::OWN === $method ? array_values(array_unique($given->numbers('cuts'))) : [];
        sort($cuts, \SORT_NUMERIC);
        if (self::OWN === $method && [] === $cuts) {
            throw new CannotPrepare('Say at least one cut point.');
        }
        if (\count($cuts) > self::MOST) {
            throw new CannotPrepare(\sprintf('At most %d cut points.', self::MOST));
        }

        return new self($given->columns(), $method, $given->whole('bins', 5, 2, self::MOST), $cuts, $given->choice('as', [self::CATEGORY, self::MARKS]));
    }

    public function toArray(): array
    {
        return ['step' => 'bins', 'method' => $this->method, 'as' => $this->as]
            + match ($this->method) {
                self::WIDTH, self::FREQUENCY => ['bins' => $this->bins],
                self::OWN => ['cuts' => $this->cuts],
                default => [],
            } + $this->columns->toArray();
    }

    /** @throws CannotPrepare … has no value in any training row, so it has no bins. */
    public function fit(Lesson $lesson): FittedBins
    {
        $cuts = [];
        foreach ($this->columns->among($lesson->table, $lesson->rows, [Kind::Number], 'can be put into bins') as $name) {
            $values = $lesson->table->number($name)->values;
            $known = array_map(static fn (int $r) => $values[$r], $lesson->rows);
            $n = \count(array_filter($known, static fn (float $v) => $v === $v));
            if (0 === $n) {
                throw new CannotPrepare(\sprintf('%s has no value in any training row, so it has no bins.', $name));
            }
            $cuts[$name] = match ($this->method) {
                self::WIDTH => self::inner(ScaledBins::edges($known, $this->bins, false)),
                self::FREQUENCY => QuantileBins::edges($known, $this->bins),
                self::ROOT => self::inner(ScaledBins::edges($known, max(2, min(self::MOST, (int) round(sqrt($n)))), false)),
                self::TARGET => $this->byTarget($lesson, $values),
                default => $this->cuts,
            };
        }

        return new FittedBins($cuts, self::MARKS === $this->as, $this->method);
    }

    /**
     * @param list<float> $edges with the ends
     *
     * @return list<float>
     */
    private static function inner(array $edges): array
    {
        return array_values(array_unique(\array_slice($edges, 1, -1)));
    }

    /**
     * @param list<float> $values
     *
     * @return list<float>
     */
    private function byTarget(Lesson $lesson, array $values): array
    {
        $event = $lesson->event();
        $rows = $lesson->judged();

        return EntropyBins::of(array_map(static fn (int $r) => $values[$r], $rows), array_map(static fn (int $r) => (int) $event[$r], $rows))['cuts'];
    }
}
