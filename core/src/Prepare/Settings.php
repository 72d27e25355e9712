<?php

declare(strict_types=1);

namespace Dokimos\Core\Prepare;

/** Settings as they were given, read with a plain sentence for each that makes no sense. */
final readonly class Settings
{
    /** @param array<string, mixed> $given */
    public function __construct(private array $given)
    {
    }

    public function columns(): Chosen
    {
        return Chosen::fromArray($this->given);
    }

    public function has(string $name): bool
    {
        return null !== ($this->given[$name] ?? null) && '' !== $this->given[$name];
    }

    /** @throws CannotPrepare "…" is a text. */
    public function text(string $name, string $default = ''): string
    {
        $value = $this->given[$name] ?? $default;

        return \is_scalar($value) && !\is_bool($value) ? (string) $value : throw new CannotPrepare(\sprintf('"%s" is a text.', $name));
    }

    /**
     * @param string $missing what to say when there is none
     *
     * @throws CannotPrepare
     */
    public function required(string $name, string $missing): string
    {
        $text = trim($this->text($name));

        return '' === $text ? throw new CannotPrepare($missing) : $text;
    }

    /**
     * @param list<string> $choices the first is taken when nothing is said
     *
     * @throws CannotPrepare "…" is not one of: …
     */
    public function choice(string $name, array $choices): string
    {
        $value = $this->text($name, $choices[0]);

        return \in_array($value, $choices, true) ? $value : throw new CannotPrepare(\sprintf('"%s" is not one of: %s.', $value, implode(', ', $choices)));
    }

    public function yes(string $name, bool $default = false): bool
    {
        return true === ($this->given[$name] ?? $default);
    }

    /** @throws CannotPrepare "…" is a number from … to …. */
    public function number(string $name, float $default, float $least, float $most): float
    {
        $value = $this->given[$name] ?? $default;
        if ((!\is_int($value) && !\is_float($value) && !(\is_string($value) && is_numeric($value))) || (float) $value < $least || (float) $value > $most || is_nan((float) $value)) {
            throw new CannotPrepare(\sprintf('"%s" is a number from %s to %s.', $name, Words::number($least), Words::number($most)));
        }

        return (float) $value;
    }

    /** @throws CannotPrepare "…" is a whole number. */
    public function whole(string $name, int $default, int $least, int $most): int
    {
        $value = $this->number($name, $default, $least, $most);

        return $value === floor($value) ? (int) $value : throw new CannotPrepare(\sprintf('"%s" is a whole number.', $name));
    }

    /**
     * @return list<float> in the order given
     *
     * @throws CannotPrepare "…" is a list of numbers
     */
    public function numbers(string $name): array
    {
        $out = [];
        foreach ($this->items($name) as $value) {
            $out[] = (\is_int($value) || \is_float($value) || \is_string($value) && is_numeric($value)) && is_finite((float) $value) ? (float) $value : throw new CannotPrepare(\sprintf('"%s" is a list of numbers.', $name));
        }

        return $out;
    }

    /**
     * @return list<string> in the order given
     *
     * @throws CannotPrepare "…" is a list of texts
     */
    public function words(string $name): array
    {
        $out = [];
        foreach ($this->items($name) as $value) {
            $out[] = \is_string($value) || \is_int($value) || \is_float($value) ? (string) $value : throw new CannotPrepare(\sprintf('"%s" is a list of texts.', $name));
        }

        return $out;
    }

    /**
     * @return list<mixed> as they came
     *
     * @throws CannotPrepare "…" is a list
     */
    public function items(string $name): array
    {
        $value = $this->given[$name] ?? [];

        return \is_array($value) ? array_values($value) : throw new CannotPrepare(\sprintf('"%s" is a list.', $name));
    }
}
