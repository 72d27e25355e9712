<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn;

use Dokimos\Core\Setting;

/** A price on the size of coefficients, usually of standardized columns: λ (α Σ|b| + ½ (1 − α) Σ b²), added to the sum of losses. */
final readonly class Penalty
{
    public const RIDGE = 'ridge';
    public const LASSO = 'lasso';
    public const BOTH = 'elastic net';
    private const STANDARDIZED = 'standardized';
    private const AS_THEY_ARE = 'as they are';

    /**
     * @param float $price     λ
     * @param float $mix       α: 0 = ridge, 1 = lasso
     * @param float $objective the least of loss and price together
     */
    public function __construct(public string $kind, public float $price, public float $mix, public float $objective = 0.0)
    {
    }

    /** @return list<Setting> those a learner with a penalty adds to its own */
    public static function settings(): array
    {
        return [
            new Setting('penalty', 'Hold coefficients back by', Setting::CHOICE, 'nothing', 'A ridge draws all toward nothing, a lasso puts some out, an elastic net does both.', choices: ['nothing', self::RIDGE, self::LASSO, self::BOTH]),
            new Setting('price', 'by so much (lambda)', Setting::NUMBER, 1.0, 'Added to the sum of losses; more holds back more.', 0.0, 1e9, when: ['penalty' => [self::RIDGE, self::LASSO, self::BOTH]]),
            new Setting('mix', 'Share of the lasso in an elastic net', Setting::NUMBER, 0.5, '0 is a ridge, 1 a lasso.', 0.0, 1.0, when: ['penalty' => [self::BOTH]]),
            new Setting('scale', 'Columns for it', Setting::CHOICE, self::STANDARDIZED, 'Standardized, all pay alike whatever their units; as they are, for columns that a step has scaled.', choices: [self::STANDARDIZED, self::AS_THEY_ARE], when: ['penalty' => [self::RIDGE, self::LASSO, self::BOTH]]),
        ];
    }

    /**
     * Whether columns are brought to one spread: always for the computation alone, by choice when coefficients have a price.
     *
     * @param array<string, string|float|int|bool> $settings
     */
    public static function scales(array $settings): bool
    {
        return 'nothing' === $settings['penalty'] || self::STANDARDIZED === $settings['scale'];
    }

    /** @param array<string, string|float|int|bool> $settings */
    public static function of(array $settings): ?self
    {
        $kind = (string) $settings['penalty'];

        return 'nothing' === $kind ? null : new self($kind, (float) $settings['price'], match ($kind) {
            self::RIDGE => 0.0,
            self::LASSO => 1.0,
            default => (float) $settings['mix'],
        });
    }

    public function reaching(float $objective): self
    {
        return new self($this->kind, $this->price, $this->mix, $objective);
    }

    public function sentence(int $zeros): string
    {
        return \sprintf('Coefficients are held back by a %s of %s%s; errors and p-values do not exist.', $this->kind, json_encode($this->price), 0 === $zeros ? '' : (1 === $zeros ? ', which put one term out' : \sprintf(', which put %d terms out', $zeros)));
    }

    /** @return array{kind: string, price: float, mix: float, objective: float} */
    public function toArray(): array
    {
        return ['kind' => $this->kind, 'price' => $this->price, 'mix' => $this->mix, 'objective' => $this->objective];
    }

    /** @param array{kind: string, price: float|int, mix: float|int, objective: float|int} $data */
    public static function fromArray(array $data): self
    {
        return new self($data['kind'], (float) $data['price'], (float) $data['mix'], (float) $data['objective']);
    }
}
