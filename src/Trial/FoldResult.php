<?php

declare(strict_types=1);

namespace App\Trial;

use Doctrine\DBAL\Types\Types;
use Doctrine\ORM\Mapping as ORM;

/** What one fold of a trial predicted; unique by its key, so that a piece that runs twice counts once. */
#[ORM\Entity]
#[ORM\UniqueConstraint(columns: ['trial_id', 'piece_key'])]
class FoldResult
{
    #[ORM\Id, ORM\GeneratedValue, ORM\Column]
    private ?int $id = null;

    /** @param array<string, mixed> $figures */
    public function __construct(
        #[ORM\ManyToOne(fetch: 'EAGER'), ORM\JoinColumn(nullable: false, onDelete: 'CASCADE')]
        private Trial $trial,
        #[ORM\Column(name: 'piece_key', length: 40)]
        private string $key,
        #[ORM\Column(type: Types::JSON)]
        private array $figures,
        #[ORM\Column(type: Types::TEXT)]
        private string $chances,
    ) {
    }

    public function id(): ?int
    {
        return $this->id;
    }

    public function trial(): Trial
    {
        return $this->trial;
    }

    public function key(): string
    {
        return $this->key;
    }

    /** @return array<string, mixed> */
    public function figures(): array
    {
        return $this->figures;
    }

    /** @param list<float> $answers */
    public static function pack(array $answers): string
    {
        return base64_encode([] === $answers ? '' : pack('e*', ...$answers));
    }

    /** @return list<float> answers for the fold's validation rows, in their order; of several classes the chances of all, row after row */
    public function answers(): array
    {
        /** @var array<int, float> $chances */
        $chances = unpack('e*', (string) base64_decode($this->chances, true)) ?: [];

        return array_values($chances);
    }
}
