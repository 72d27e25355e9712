<?php

declare(strict_types=1);

namespace Dokimos\Core\Search;

use Dokimos\Core\Setting;
use Random\Randomizer;

/** One setting that a search varies: a list of values, or a range from one to another, even or by factors. */
final readonly class Vary
{
    public const LIST = 'list';
    public const EVEN = 'even';
    public const FACTORS = 'factors';
    /** Values of a list, or points of a range, at most. */
    private const MOST = 200;

    /**
     * @param list<bool|float|int|string> $values of a list, or the points of the range, in order
     */
    private function __construct(
        public Setting $setting,
        public string $how,
        public array $values,
        private float $from = 0.0,
        private float $to = 0.0,
    ) {
    }

    /**
     * @param array<string, mixed> $given {"list": [values]} or {"from": 1, "to": 9, "points": 5, "by": "even"|"factors"}
     *
     * @throws CannotSearch when it is neither, or not of the setting's type and limits
     */
    public static function of(Setting $setting, array $given): self
    {
        if (\array_key_exists('list', $given)) {
            $list = $given['list'];
            if (!\is_array($list) || [] === $list || \count($list) > self::MOST) {
                throw new CannotSearch(\sprintf('"%s" is varied over a list of 1 to %d values.', $setting->label, self::MOST));
            }
            $values = array_map(static fn (mixed $v): bool|float|int|string => self::value($setting, $v), array_values($list));

            return new self($setting, self::LIST, array_values(array_unique($values, \SORT_REGULAR)));
        }
        [$from, $to, $points, $by] = [$given['from'] ?? null, $given['to'] ?? null, $given['points'] ?? 5, $given['by'] ?? self::EVEN];
        if (!\in_array($setting->type, [Setting::NUMBER, Setting::WHOLE], true)) {
            throw new CannotSearch(\sprintf('"%s" is no number, so it has no range; list its values.', $setting->label));
        }
        if (!is_numeric($from) || !is_numeric($to) || !\is_int($points) || !\in_array($by, [self::EVEN, self::FACTORS], true)) {
            throw new CannotSearch(\sprintf(
                'A range of "%s" is from a number to another, in so many points, even or by factors.',
                $setting->label,
            ));
        }
        [$from, $to] = [(float) $from, (float) $to];
        if ($from >= $to || $points < 2 || $points > self::MOST) {
            throw new CannotSearch(\sprintf('A range of "%s" rises, and has 2 to %d points.', $setting->label, self::MOST));
        }
        if (self::FACTORS === $by && $from <= 0.0) {
            throw new CannotSearch(\sprintf('By factors a range begins above 0; that of "%s" does not.', $setting->label));
        }
        $values = [];
        for ($i = 0; $i < $points; ++$i) {
            $values[] = self::value($setting, self::between($from, $to, $by, $i / ($points - 1), Setting::WHOLE === $setting->type));
        }

        return new self($setting, $by, array_values(array_unique($values, \SORT_REGULAR)), $from, $to);
    }

    private static function between(float $from, float $to, string $by, float $share, bool $whole): float
    {
        $at = self::FACTORS === $by ? exp(log($from) + $share * (log($to) - log($from))) : $from + $share * ($to - $from);
        // Four digits tell settings apart; more are noise on the page.
        $at = $whole ? round($at) : (float) \sprintf('%.4g', $at);

        return max($from, min($to, $at));
    }

    /** @throws CannotSearch when it is not of the setting's type, or beyond its limits */
    private static function value(Setting $setting, mixed $given): bool|float|int|string
    {
        $value = match ($setting->type) {
            Setting::YES => \is_bool($given) ? $given : null,
            Setting::CHOICE => \is_string($given) && \in_array($given, $setting->choices, true) ? $given : null,
            Setting::WHOLE => is_numeric($given) && (float) $given === floor((float) $given) ? (int) $given : null,
            Setting::NUMBER => is_numeric($given) && is_finite((float) $given) ? (float) $given : null,
            Setting::TEXT => \is_string($given) ? $given : null,
            default => null,
        };
        if (null === $value || \is_int($value) || \is_float($value)) {
            if (null === $value || (null !== $setting->least && $value < $setting->least) || (null !== $setting->most && $value > $setting->most)) {
                throw new CannotSearch(\sprintf(
                    '%s is no value of "%s".',
                    \is_scalar($given) ? '"'.var_export($given, true).'"' : 'This',
                    $setting->label,
                ));
            }
        }

        return $value;
    }

    /** A value drawn at random: of a list one of it; of a range any within. */
    public function draw(Randomizer $random): bool|float|int|string
    {
        if (self::LIST === $this->how) {
            return $this->values[$random->getInt(0, \count($this->values) - 1)];
        }

        return self::value(
            $this->setting,
            self::between(
                $this->from,
                $this->to,
                $this->how,
                $random->getInt(0, (1 << 53) - 1) / (1 << 53),
                Setting::WHOLE === $this->setting->type,
            ),
        );
    }

    /** Whether a value lies at the end of a range that the setting itself lets go on: -1 at the low end, 1 at the high, 0 within. */
    public function edge(bool|float|int|string $value): int
    {
        $numbers = $this->numbers();
        if (\is_bool($value) || \is_string($value) || \count($numbers) < 3) {
            return 0;
        }
        [$low, $high] = [$numbers[0], $numbers[\count($numbers) - 1]];

        return match (true) {
            $value <= $low && (null === $this->setting->least || $low > $this->setting->least) => -1,
            $value >= $high && (null === $this->setting->most || $high < $this->setting->most) => 1,
            default => 0,
        };
    }

    /** @return list<float|int> the values in rising order, where they are numbers */
    private function numbers(): array
    {
        $numbers = array_values(array_filter($this->values, static fn (bool|float|int|string $v): bool => \is_int($v) || \is_float($v)));
        sort($numbers);

        return $numbers;
    }

    /**
     * What was given, gone on beyond an edge by the same steps.
     *
     * @return array<string, mixed>
     */
    public function widened(int $edge): array
    {
        $numbers = $this->numbers();
        $n = \count($numbers);
        // A list whose steps grow goes on by factors.
        $ratio = $numbers[0] > 0 && (self::FACTORS === $this->how || $numbers[$n - 1] - $numbers[$n - 2] > 1.5 * ($numbers[1] - $numbers[0]));
        $more = [];
        for ($k = 1; $k <= 2; ++$k) {
            $next = match (true) {
                $edge > 0 && $ratio => $numbers[$n - 1] * ($numbers[$n - 1] / $numbers[$n - 2]) ** $k,
                $edge > 0 => $numbers[$n - 1] + $k * ($numbers[$n - 1] - $numbers[$n - 2]),
                $ratio => $numbers[0] * ($numbers[0] / $numbers[1]) ** $k,
                default => $numbers[0] - $k * ($numbers[1] - $numbers[0]),
            };
            $next = max($this->setting->least ?? -\INF, min($this->setting->most ?? \INF, $next));
            $more[] = Setting::WHOLE === $this->setting->type ? (int) round($next) : (float) \sprintf('%.4g', $next);
        }
        $kept = $edge > 0 ? \array_slice($numbers, -2) : \array_slice($numbers, 0, 2);
        $all = array_values(array_unique([...$kept, ...$more], \SORT_REGULAR));
        sort($all);

        return ['list' => $all];
    }
}
