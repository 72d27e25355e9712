<?php

declare(strict_types=1);

namespace Dokimos\Core\TakeAway;

/** Follows a rule card by its text alone, as a person would: what the card is proven with. */
final readonly class CardReader
{
    private const TEXT = '"(?:[^"\\\\]|\\\\.)*"';

    /** @var list<array{int, string}> how far a line is set in, and what it says */
    private array $lines;

    public function __construct(string $card)
    {
        $lines = [];
        foreach (explode("\n", substr((string) strstr($card, "\n\n"), 2)) as $line) {
            if ('' !== trim($line)) {
                $lines[] = [intdiv(\strlen($line) - \strlen(ltrim($line, ' ')), 2), trim($line)];
            }
        }
        $this->lines = $lines;
    }

    /**
     * @param array<array-key, float|string|null> $record as prepared: numbers, dates as days since 1970, texts
     *
     * @return list<float>
     */
    public function answers(array $record): array
    {
        $at = 0;
        while (isset($this->lines[$at])) {
            [$depth, $says] = $this->lines[$at];
            if (str_starts_with($says, '→ ')) {
                return array_map(floatval(...), explode(', ', substr($says, \strlen('→ '))));
            }
            $holds = 'otherwise' === $says || $this->holds($says, $record);
            ++$at;
            while (!$holds && isset($this->lines[$at]) && $this->lines[$at][0] > $depth) {
                ++$at;
            }
        }

        throw new \UnexpectedValueException('The card ends without an answer.');
    }

    /** @param array<array-key, float|string|null> $record */
    private function holds(string $says, array $record): bool
    {
        $number = '[-+.0-9eE]+(?: \([^()"]*\))?';
        $one = '\(?('.self::TEXT.') is (one of|none of|up to|over|known|missing)(?:: | )?((?:'.self::TEXT.'(?:, )?)*|'.$number.')?'
            .'(?: and up to ('.$number.'))?(, or missing)?\)?';
        preg_match_all('/'.$one.'(?: and |$)/A', $says, $parts, \PREG_SET_ORDER);
        if ([] === $parts || implode('', array_column($parts, 0)) !== $says) {
            throw new \UnexpectedValueException('This line cannot be read: '.$says);
        }
        foreach ($parts as $part) {
            $value = $record[\is_string($name = json_decode($part[1])) ? $name : ''] ?? null;
            $value = \is_float($value) && is_nan($value) ? null : $value;
            $given = rtrim($part[3] ?? '', ', ');
            preg_match_all('/'.self::TEXT.'/', $given, $texts);
            $listed = \in_array($value, array_map(json_decode(...), $texts[0]), true);
            $holds = null === $value ? '' !== ($part[5] ?? '') || 'missing' === $part[2] : match ($part[2]) {
                'one of' => $listed,
                'none of' => !$listed,
                'up to' => $value <= (float) $given,
                'over' => $value > (float) $given && ('' === ($part[4] ?? '') || $value <= (float) $part[4]),
                default => 'known' === $part[2],
            };
            if (!$holds) {
                return false;
            }
        }

        return true;
    }
}
