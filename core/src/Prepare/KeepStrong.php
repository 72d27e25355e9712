<?php

declare(strict_types=1);

namespace Dokimos\Core\Prepare;

use Dokimos\Core\Profile\Chance;
use Dokimos\Core\Profile\Evidence;
use Dokimos\Core\Profile\QuantileBins;
use Dokimos\Core\Setting;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;

/**
 * Keeps columns whose relation to the target is strong enough: their information value less what chance gives to so many values, numbers in
 * ten bins, learned on training rows.
 * Texts and identifiers have none and stay.
 */
final readonly class KeepStrong implements Step
{
    private const BINS = 10;
    /** With a greater chance of so strong a relation if there were none, a column counts as telling nothing. */
    private const CLEAR = 0.05;

    public function __construct(private float $least)
    {
    }

    public static function described(): Described
    {
        return new Described('keep_strong', 'Keep telling columns', 'columns', 'Sets columns aside whose own relation to the target, by information value, is weaker than a threshold.', [
            new Setting('least', 'information value at least', Setting::NUMBER, default: 0.02, least: 0.0, most: 10.0, explanation: 'Under 0.02 says next to nothing; 0.1 is weak, 0.3 is strong, far above that is suspicious.'),
        ]);
    }

    public static function fromSettings(Settings $given): self
    {
        return new self($given->number('least', 0.02, 0.0, 10.0));
    }

    public function toArray(): array
    {
        return ['step' => 'keep_strong', 'least' => $this->least];
    }

    public function fit(Lesson $lesson): Aside
    {
        $names = $said = [];
        foreach ($lesson->table->names() as $name) {
            $value = self::information($lesson, $name);
            if (null !== $value && $value < $this->least) {
                $names[] = $name;
                $said[] = \sprintf('%s (%s)', $name, Words::number($value));
            }
        }

        return new Aside('keep_strong', $names, [] === $names ? \sprintf('Sets nothing aside: every column has an information value of %s or more.', Words::number($this->least)) : \sprintf('Sets %s aside: information value under %s.', Words::listed($said), Words::number($this->least)));
    }

    private static function information(Lesson $lesson, string $name): ?float
    {
        $event = $lesson->event();
        $rows = $lesson->judged();
        $codes = self::codes($lesson->table, $name, $rows);
        if (null === $codes) {
            return null;
        }
        $counts = [];
        foreach ($rows as $i => $row) {
            $counts[$codes[$i]] ??= [0, 0];
            ++$counts[$codes[$i]][$event[$row] > 0.5 ? 0 : 1];
        }

        // Many values have an information value by chance alone, about (k − 1)(1/events + 1/others) of them: it is taken off, and a column
        // that is not clear of chance tells nothing.
        $events = array_sum(array_column($counts, 0));
        $others = array_sum(array_column($counts, 1));
        if ($events < 1 || $others < 1) {
            return 0.0;
        }
        $chance = Chance::ofCategories(array_map(static fn (int $c): int => $c + 1, $codes), array_map(static fn (int $row): int => $event[$row] > 0.5 ? 1 : 0, $rows)) ?? 1.0;

        return $chance > self::CLEAR ? 0.0 : max(0.0, Evidence::of($counts)->value - (\count($counts) - 1) * (1 / $events + 1 / $others));
    }

    /**
     * @param list<int> $rows
     *
     * @return ?list<int>
     */
    private static function codes(Table $table, string $name, array $rows): ?array
    {
        $column = $table->column($name);
        if ($column instanceof CodedColumn) {
            return array_map(static fn (int $r) => $column->codes[$r], $rows);
        }
        $values = match (true) {
            $column instanceof NumberColumn => array_map(static fn (int $r) => $column->values[$r], $rows),
            $column instanceof DateColumn => array_map(static fn (int $r) => DateColumn::MISSING === $column->seconds[$r] ? \NAN : (float) $column->seconds[$r], $rows),
            default => null,
        };

        return null === $values ? null : QuantileBins::codes($values, QuantileBins::edges($values, self::BINS));
    }
}
