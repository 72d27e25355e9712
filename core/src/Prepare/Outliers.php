<?php

declare(strict_types=1);

namespace Dokimos\Core\Prepare;

use Dokimos\Core\Profile\NumberSummary;
use Dokimos\Core\Setting;
use Dokimos\Core\Table\Kind;

/** Caps, empties or takes out values beyond limits that are learned on training rows, or said. */
final readonly class Outliers implements Step
{
    private const RULES = ['quartile fences', 'robust z', 'percentiles', 'own limits'];
    private const ACTIONS = ['capped at the limit', 'made missing', 'taken out with their row'];

    public function __construct(private Chosen $columns, private string $rule, private float $reach, private ?float $low, private ?float $high, private string $action)
    {
    }

    public static function described(): Described
    {
        return new Described('outliers', 'Treat outliers', 'values', 'Caps values beyond limits, makes them missing, or takes their rows out. Limits are learned on training rows.', [
            new Setting('columns', 'Columns', Setting::COLUMNS, kinds: [Kind::Number->value]),
            new Setting('rule', 'Beyond', Setting::CHOICE, choices: self::RULES, default: self::RULES[0]),
            new Setting('reach', 'times the quartile range, robust z, or percent at each end', Setting::NUMBER, default: 3.0, least: 0.0, most: 1000.0, when: ['rule' => ['quartile fences', 'robust z', 'percentiles']], explanation: 'Fences: 1.5 is strict, 3 is wide. Robust z: 3.5 is usual. Percent: 1 leaves out the lowest and the highest 1%.'),
            new Setting('low', 'lowest value allowed', Setting::NUMBER, when: ['rule' => ['own limits']]),
            new Setting('high', 'highest value allowed', Setting::NUMBER, when: ['rule' => ['own limits']]),
            new Setting('action', 'they are', Setting::CHOICE, choices: self::ACTIONS, default: self::ACTIONS[0]),
        ]);
    }

    /** @throws CannotPrepare Say the lowest value allowed, the highest, or both. The lowest value allowed is above the highest. */
    public static function fromSettings(Settings $given): self
    {
        $rule = $given->choice('rule', self::RULES);
        $own = 'own limits' === $rule;
        $low = $own && $given->has('low') ? $given->number('low', 0.0, -\INF, \INF) : null;
        $high = $own && $given->has('high') ? $given->number('high', 0.0, -\INF, \INF) : null;
        if ($own && null === $low && null === $high) {
            throw new CannotPrepare('Say the lowest value allowed, the highest, or both.');
        }
        if (null !== $low && null !== $high && $low > $high) {
            throw new CannotPrepare('The lowest value allowed is above the highest.');
        }
        $reach = $given->number('reach', 3.0, 0.0, 'percentiles' === $rule ? 49.0 : 1000.0);

        return new self($given->columns(), $rule, $reach, $low, $high, $given->choice('action', self::ACTIONS));
    }

    public function toArray(): array
    {
        return ['step' => 'outliers', 'rule' => $this->rule, 'action' => $this->action]
            + ('own limits' === $this->rule ? array_filter(['low' => $this->low, 'high' => $this->high], static fn (?float $v) => null !== $v) : ['reach' => $this->reach])
            + $this->columns->toArray();
    }

    public function fit(Lesson $lesson): FittedLimits
    {
        $limits = [];
        $hit = 0;
        foreach ($this->columns->among($lesson->table, $lesson->rows, [Kind::Number], 'has outliers of this sort') as $name) {
            $values = $lesson->table->number($name)->values;
            [$low, $high] = $limits[$name] = $this->limits($name, array_map(static fn (int $r) => $values[$r], $lesson->rows));
            foreach (array_diff_key($values, $lesson->out) as $v) {
                $hit += null !== $low && $v < $low || null !== $high && $v > $high ? 1 : 0;
            }
        }

        return new FittedLimits($limits, array_search($this->action, self::ACTIONS, true) ?: 0, $hit);
    }

    /**
     * @param list<float> $values of training rows
     *
     * @return array{?float, ?float}
     */
    private function limits(string $name, array $values): array
    {
        if ('own limits' === $this->rule) {
            return [$this->low, $this->high];
        }
        $summary = NumberSummary::of($values);
        $figure = static fn (string $of): float => (float) ($summary->figure($of) ?? throw new CannotPrepare(\sprintf('%s has no value in any training row.', $name)));
        if ('quartile fences' === $this->rule) {
            $reach = $this->reach * ($figure('q3') - $figure('q1'));

            return [$figure('q1') - $reach, $figure('q3') + $reach];
        }
        if ('robust z' === $this->rule) {
            // The robust z of the summary is linear in the value: one unit of it is found from two points.
            $middle = $figure('median');
            $unit = $summary->robustZ($middle + 1.0);

            return null === $unit || 0.0 === $unit ? [null, null] : [$middle - $this->reach / $unit, $middle + $this->reach / $unit];
        }
        $known = array_values(array_filter($values, static fn (float $v) => $v === $v));
        sort($known, \SORT_NUMERIC);
        [$low, $high] = NumberSummary::quantiles($known, array_fill(0, \count($known), 1), \count($known), [$this->reach / 100, 1 - $this->reach / 100]);

        return [$low, $high];
    }
}
