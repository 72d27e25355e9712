<?php

declare(strict_types=1);

namespace App\Trial;

use Doctrine\DBAL\Types\Types;
use Doctrine\ORM\Mapping as ORM;
use Dokimos\Core\Task\Answers;

/** What a trial found out, apart from the trial: a list of trials reads neither figures nor answers. */
#[ORM\Entity]
class TrialResult
{
    #[ORM\Id, ORM\GeneratedValue, ORM\Column]
    private ?int $id = null;

    /** @var array<string, mixed>|null figures on the sealed rows, once opened */
    #[ORM\Column(type: Types::JSON, nullable: true)]
    private ?array $sealedFigures = null;

    /** @var string|resource out-of-fold answers for the unsealed rows, one repeat after the other, packed float64 and compressed; NAN = none */
    #[ORM\Column(type: Types::BLOB)]
    private $answers;

    #[ORM\Column]
    private int $repeats;

    /** Numbers of an answer. */
    #[ORM\Column]
    private int $width;

    /**
     * @param array<string, mixed> $figures validation figures
     * @param list<Answers>        $answers per repeat
     */
    public function __construct(
        #[ORM\Column(type: Types::JSON)]
        private array $figures,
        array $answers,
    ) {
        $this->repeats = \count($answers);
        $this->width = $answers[0]->width ?? 1;
        $this->answers = self::pack($answers);
    }

    /** @param list<Answers> $answers */
    private static function pack(array $answers): string
    {
        // Most rows of a single validation part have no answer: compressed, they take next to nothing.
        return (string) gzdeflate(
            implode('', array_map(static fn (Answers $own): string => [] === $own->values ? '' : pack('e*', ...$own->values), $answers)),
            1,
        );
    }

    public function id(): ?int
    {
        return $this->id;
    }

    /** @return array<string, mixed> */
    public function figures(): array
    {
        return $this->figures;
    }

    /** @return list<Answers> per repeat, for the unsealed rows with a known outcome: of models like the one that scores, each on rows it had not seen */
    public function repeats(): array
    {
        $kept = $this->answers;
        if (\is_resource($kept)) {
            rewind($kept);
            $kept = stream_get_contents($kept);
        }
        $bytes = (string) gzinflate(\is_string($kept) ? $kept : '');
        $length = intdiv(\strlen($bytes), max(1, $this->repeats));
        $out = [];
        foreach ($length < 1 ? [] : str_split($bytes, $length) as $own) {
            /** @var array<int, float> $values */
            $values = unpack('e*', $own) ?: [];
            $out[] = new Answers(array_values($values), $this->width);
        }

        return $out;
    }

    /** @return array<string, mixed>|null */
    public function sealedFigures(): ?array
    {
        return $this->sealedFigures;
    }

    /** @param array<string, mixed> $figures */
    public function openSeal(array $figures): void
    {
        $this->sealedFigures = $figures;
    }
}
