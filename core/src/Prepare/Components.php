<?php

declare(strict_types=1);

namespace Dokimos\Core\Prepare;

use Dokimos\Core\Math\SymmetricEigen;
use Dokimos\Core\Setting;
use Dokimos\Core\Table\Kind;

/** Principal components of standardized columns, or the truncated singular value decomposition of raw ones, learned on training rows. */
final readonly class Components implements Step
{
    public const PRINCIPAL = 'principal components';
    public const SINGULAR = 'truncated SVD';

    public function __construct(private Chosen $columns, private string $method, private int $count, private float $share, private bool $keep)
    {
    }

    public static function described(): Described
    {
        return new Described('components', 'Combine correlated columns', 'combine', 'Makes few columns of many that go together, and says how much of them they hold.', [
            new Setting('columns', 'Columns', Setting::COLUMNS, kinds: [Kind::Number->value]),
            new Setting('method', 'as', Setting::CHOICE, choices: [self::PRINCIPAL, self::SINGULAR], default: self::PRINCIPAL),
            new Setting('count', 'how many (0: as many as the share needs)', Setting::NUMBER, default: 0, least: 0, most: 50),
            new Setting('share', 'share of the variation to hold', Setting::NUMBER, default: 0.9, least: 0.01, most: 1.0),
            new Setting('keep', 'keep the columns themselves', Setting::YES, default: false),
        ]);
    }

    public static function fromSettings(Settings $given): self
    {
        return new self($given->columns(), $given->choice('method', [self::PRINCIPAL, self::SINGULAR]), $given->whole('count', 0, 0, 50), $given->number('share', 0.9, 0.01, 1.0), $given->yes('keep'));
    }

    public function toArray(): array
    {
        return ['step' => 'components', 'method' => $this->method, 'count' => $this->count, 'share' => $this->share, 'keep' => $this->keep] + $this->columns->toArray();
    }

    /** @throws CannotPrepare Choose at least two columns of numbers. and more */
    public function fit(Lesson $lesson): FittedComponents
    {
        $names = $this->columns->among($lesson->table, $lesson->rows, [Kind::Number], 'can be combined');
        if (\count($names) < 2) {
            throw new CannotPrepare('Choose at least two columns of numbers.');
        }
        $columns = array_map(static fn (string $n) => $lesson->table->number($n)->values, $names);
        $rows = array_values(array_filter($lesson->rows, static function (int $r) use ($columns): bool {
            foreach ($columns as $values) {
                if (is_nan($values[$r])) {
                    return false;
                }
            }

            return true;
        }));
        $n = \count($rows);
        if ($n < 2) {
            throw new CannotPrepare('Fewer than two training rows have a value in all of these columns. Fill what is missing first.');
        }
        $means = $sds = $centered = [];
        foreach ($columns as $j => $values) {
            $own = array_map(static fn (int $r) => $values[$r], $rows);
            $mean = array_sum($own) / $n;
            $sd = sqrt(array_sum(array_map(static fn (float $v) => ($v - $mean) ** 2, $own)) / ($n - 1));
            if (self::PRINCIPAL === $this->method && $sd <= 1e-12 * max(1.0, abs($mean))) {
                throw new CannotPrepare(\sprintf('%s never varies in training rows; leave it out.', $names[$j]));
            }
            [$means[$j], $sds[$j]] = self::PRINCIPAL === $this->method ? [$mean, $sd] : [0.0, 1.0];
            $centered[$j] = array_map(static fn (float $v) => ($v - $means[$j]) / $sds[$j], $own);
        }
        $matrix = [];
        foreach ($centered as $i => $a) {
            for ($j = 0; $j <= $i; ++$j) {
                $sum = 0.0;
                foreach ($centered[$j] as $r => $b) {
                    $sum += $a[$r] * $b;
                }
                $matrix[$i][$j] = $matrix[$j][$i] = self::PRINCIPAL === $this->method ? $sum / ($n - 1) : $sum;
            }
        }
        $found = SymmetricEigen::of(array_values(array_map(static function (array $row): array {
            ksort($row);

            return array_values($row);
        }, $matrix)));
        $total = array_sum($found->values);
        $shares = array_map(static fn (float $v) => $total > 0.0 ? max(0.0, $v) / $total : 0.0, $found->values);

        return new FittedComponents($names, array_values($means), array_values($sds), \array_slice($found->vectors, 0, $this->many($shares)), $shares, $this->keep, self::PRINCIPAL === $this->method ? 'component' : 'factor');
    }

    /** @param list<float> $shares */
    private function many(array $shares): int
    {
        if ($this->count > 0) {
            return min($this->count, \count($shares));
        }
        $sum = 0.0;
        foreach ($shares as $i => $share) {
            $sum += $share;
            // What the last bits lack does not cost a component.
            if ($sum >= $this->share - 1e-12) {
                return $i + 1;
            }
        }

        return \count($shares);
    }
}
