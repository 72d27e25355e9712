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

    /** What each one decides, for whoever sets it. */
    public const SAYS = [
        'missing_share' => 'A column lacks at least this share of its cells',
        'mostly_missing_share' => 'A column is mostly missing from this share on',
        'near_constant_share' => 'One value fills at least this share of a column',
        'many_categories' => 'A category has more than so many values',
        'rare_category_share' => 'A value is rare below this share of the records',
        'skewness' => 'A column is lopsided from this skewness on, either way',
        'outlier_z' => 'A value stands apart from this robust z on',
        'outlier_gap' => 'and beyond a gap of this share of its distance from the median',
        'copy_strength' => 'Two columns say nearly the same from this strength on',
        'relation_strength' => 'Two columns go together strongly from this strength on',
        'imbalance_share' => 'The target is imbalanced when its rarer class is below this share',
        'leak_auc' => 'A column may give the target away from this AUC on, alone',
        'leak_settled' => 'and when it settles at least this share of the events',
        'leak_lead' => 'and leads the next column by so much',
        'duplicate_rows_share' => 'Equal records are grave from this share on',
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
            if (!is_finite((float) $value) || $value < 0 || str_ends_with($name, '_share') && $value > 1) {
                throw new \InvalidArgumentException(\sprintf('The threshold "%s" is a number from 0 on%s.', $name, str_ends_with($name, '_share') ? ' to 1, a share' : ''));
            }
        }

        return new self($changed + self::STANDARD);
    }

    /** @throws \OutOfBoundsException */
    public function of(string $name): float
    {
        return (float) ($this->values[$name] ?? throw new \OutOfBoundsException($name));
    }
}
