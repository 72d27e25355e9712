<?php

declare(strict_types=1);

namespace Dokimos\Core\Findings;

/** From where on something is worth a word. What each means, and why it is what it is: docs/methods/findings.md. */
final readonly class Thresholds
{
    public const STANDARD = [
        'missing_share' => 0.05,
        'mostly_missing_share' => 0.5,
        'near_constant_share' => 0.99,
        'many_categories' => 50,
        'rare_category_share' => 0.005,
        'skewness' => 2.0,
        'outlier_z' => 3.5,
        'outlier_gap' => 0.2,
        'copy_strength' => 0.95,
        'relation_strength' => 0.8,
        'imbalance_share' => 0.2,
        'leak_auc' => 0.7,
        'leak_settled' => 0.2,
        'leak_lead' => 0.05,
        'duplicate_rows_share' => 0.01,
    ];

    /** @param array<string, float|int> $values */
    private function __construct(private array $values)
    {
    }

    /**
     * @param array<string, float|int> $changed
     *
     * @throws \InvalidArgumentException for a name that is none, or a value that is no finite number
     */
    public static function standard(array $changed = []): self
    {
        foreach ($changed as $name => $value) {
            if (!isset(self::STANDARD[$name])) {
                throw new \InvalidArgumentException(\sprintf('There is no threshold called "%s".', $name));
            }
            if (!is_finite((float) $value) || $value < 0) {
                throw new \InvalidArgumentException(\sprintf('The threshold "%s" is a number from 0 on.', $name));
            }
        }

        return new self($changed + self::STANDARD);
    }

    public function of(string $name): float
    {
        return (float) ($this->values[$name] ?? throw new \OutOfBoundsException($name));
    }
}
