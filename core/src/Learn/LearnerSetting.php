<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn;

/** One setting of a learner: forms, the API document and the command line are made from this. */
final readonly class LearnerSetting
{
    public const NUMBER = 'number';
    public const WHOLE = 'whole number';
    public const CHOICE = 'choice';
    public const YES = 'yes/no';
    public const TEXT = 'text';

    /**
     * @param string       $label       what stands before the field
     * @param string       $explanation one line: what more or less of it does
     * @param list<string> $choices
     * @param ?string      $if          another setting that has to be one of $ifIn for this one to matter; a form leaves it out otherwise
     * @param list<string> $ifIn
     * @param list<string> $tasks       for which it matters; [] = all
     */
    public function __construct(public string $name, public string $label, public string $type, public string|float|int|bool $default, public string $explanation, public ?float $least = null, public ?float $most = null, public array $choices = [], public ?string $if = null, public array $ifIn = [], public array $tasks = [])
    {
    }

    /**
     * The value of every setting, checked; what is not given is the default.
     *
     * @param list<self>           $settings
     * @param array<string, mixed> $given
     *
     * @return array<string, string|float|int|bool>
     *
     * @throws CannotFit
     */
    public static function values(string $title, array $settings, array $given): array
    {
        $out = [];
        foreach ($settings as $setting) {
            $out[$setting->name] = \array_key_exists($setting->name, $given) ? $setting->checked($given[$setting->name]) : $setting->default;
        }
        if ([] !== $unknown = array_diff_key($given, $out)) {
            throw new CannotFit(\sprintf('%s has no setting called "%s".', $title, implode('", "', array_map(strval(...), array_keys($unknown)))));
        }

        return $out;
    }

    private function checked(mixed $value): string|float|int|bool
    {
        if (self::CHOICE === $this->type) {
            return \is_string($value) && \in_array($value, $this->choices, true) ? $value : throw new CannotFit(\sprintf('"%s" is one of %s.', $this->label, implode(', ', $this->choices)));
        }
        if (self::YES === $this->type) {
            return match ($value) {
                true, 'yes', '1', 1 => true,
                false, 'no', '0', 0, '' => false,
                default => throw new CannotFit(\sprintf('"%s" is yes or no.', $this->label)),
            };
        }
        if (self::TEXT === $this->type) {
            return \is_string($value) && \strlen($value) <= 2000 ? $value : throw new CannotFit(\sprintf('"%s" is a text.', $this->label));
        }
        $number = \is_int($value) || \is_float($value) || (\is_string($value) && is_numeric($value)) ? (float) $value : \NAN;
        if (!is_finite($number) || $number < ($this->least ?? -\INF) || $number > ($this->most ?? \INF) || (self::WHOLE === $this->type && floor($number) !== $number)) {
            throw new CannotFit(\sprintf('"%s" is a %s from %s to %s.', $this->label, $this->type, $this->least ?? 'any', $this->most ?? 'any'));
        }

        return self::WHOLE === $this->type ? (int) $number : $number;
    }
}
