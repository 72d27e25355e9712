<?php

declare(strict_types=1);

namespace Dokimos\Core\Search;

use Dokimos\Core\Learners\Learners;
use Dokimos\Core\Setting;
use Random\Randomizer;

/** All settings of one learner that a search may try: some fixed, some varied. */
final readonly class Space
{
    /**
     * @param array<string, mixed> $fixed
     * @param list<Vary>           $varied
     */
    private function __construct(public string $learner, public array $fixed, public array $varied)
    {
    }

    /**
     * @param array<string, mixed> $given by setting: a value that is fixed, or a list or range as Vary takes it
     *
     * @throws CannotSearch when a setting is not known, or cannot be varied so
     */
    public static function of(string $learner, array $given): self
    {
        $settings = [];
        foreach (Learners::about($learner)->settings as $setting) {
            $settings[$setting->name] = $setting;
        }
        $fixed = $varied = [];
        foreach ($given as $name => $value) {
            $setting = $settings[$name] ?? throw new CannotSearch(\sprintf('%s has no setting "%s".', Learners::title($learner), $name));
            if (\is_array($value) && (\array_key_exists('list', $value) || \array_key_exists('from', $value))) {
                $vary = Vary::of($setting, self::named($value));
                if (\count($vary->values) > 1) {
                    $varied[] = $vary;
                } else {
                    $fixed[$name] = $vary->values[0];
                }
            } else {
                $fixed[$name] = $value;
            }
        }
        // Wrong values are said now, not by the first try.
        Learners::make($learner, $fixed);

        return new self($learner, $fixed, $varied);
    }

    /**
     * @param array<array-key, mixed> $value
     *
     * @return array<string, mixed>
     */
    private static function named(array $value): array
    {
        return array_combine(array_map(strval(...), array_keys($value)), array_values($value));
    }

    /** How many combinations of the listed values and points there are. */
    public function count(): float
    {
        return array_product(array_map(static fn (Vary $v): float => (float) \count($v->values), $this->varied));
    }

    /**
     * One combination by its place; the last setting turns fastest.
     *
     * @return array<string, mixed>
     */
    public function at(int $place): array
    {
        $settings = [];
        foreach (array_reverse($this->varied) as $vary) {
            $n = \count($vary->values);
            $settings[$vary->setting->name] = $vary->values[$place % $n];
            $place = intdiv($place, $n);
        }

        return $this->fixed + array_reverse($settings, true);
    }

    /** @return array<string, mixed> each varied setting drawn by itself */
    public function draw(Randomizer $random): array
    {
        $settings = [];
        foreach ($this->varied as $vary) {
            $settings[$vary->setting->name] = $vary->draw($random);
        }

        return $this->fixed + $settings;
    }

    /** @return array<string, Setting> the settings that are varied, by name */
    public function settings(): array
    {
        $out = [];
        foreach ($this->varied as $vary) {
            $out[$vary->setting->name] = $vary->setting;
        }

        return $out;
    }
}
