<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn;

use Dokimos\Core\Setting;

/** Settings of a learner as they were given. */
final class GivenSettings
{
    /**
     * The value of every setting, checked; what is not given is the default.
     *
     * @param list<Setting>        $settings
     * @param array<string, mixed> $given
     *
     * @return array<string, string|float|int|bool>
     *
     * @throws CannotFit
     */
    public static function of(string $title, array $settings, array $given): array
    {
        $out = [];
        foreach ($settings as $setting) {
            $usual = \is_array($setting->default) || null === $setting->default ? throw new \LogicException(\sprintf('The setting %s of a learner has one usual value.', $setting->name)) : $setting->default;
            $out[$setting->name] = \array_key_exists($setting->name, $given) ? self::checked($setting, $given[$setting->name]) : $usual;
        }
        if ([] !== $unknown = array_diff_key($given, $out)) {
            throw new CannotFit(\sprintf('%s has no setting called "%s".', $title, implode('", "', array_map(strval(...), array_keys($unknown)))));
        }

        return $out;
    }

    private static function checked(Setting $setting, mixed $value): string|float|int|bool
    {
        if (Setting::CHOICE === $setting->type) {
            return \is_string($value) && \in_array($value, $setting->choices, true) ? $value : throw new CannotFit(\sprintf('"%s" is one of %s.', $setting->label, implode(', ', $setting->choices)));
        }
        if (Setting::YES === $setting->type) {
            return match ($value) {
                true, 'yes', '1', 1 => true,
                false, 'no', '0', 0, '' => false,
                default => throw new CannotFit(\sprintf('"%s" is yes or no.', $setting->label)),
            };
        }
        if (Setting::TEXT === $setting->type) {
            return \is_string($value) && \strlen($value) <= 2000 ? $value : throw new CannotFit(\sprintf('"%s" is a text.', $setting->label));
        }
        $number = \is_int($value) || \is_float($value) || (\is_string($value) && is_numeric($value)) ? (float) $value : \NAN;
        if (!is_finite($number) || $number < ($setting->least ?? -\INF) || $number > ($setting->most ?? \INF) || (Setting::WHOLE === $setting->type && floor($number) !== $number)) {
            throw new CannotFit(\sprintf('"%s" is a %s from %s to %s.', $setting->label, $setting->type, $setting->least ?? 'any', $setting->most ?? 'any'));
        }

        return Setting::WHOLE === $setting->type ? (int) $number : $number;
    }
}
