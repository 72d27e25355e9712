<?php

declare(strict_types=1);

namespace App\Dossier;

use App\Study\Study;
use Doctrine\DBAL\Types\Types;
use Doctrine\ORM\Mapping as ORM;

/** What of a study's dossier is left out, and what somebody says beside it. */
#[ORM\Entity, ORM\Table(name: 'dossier')]
class DossierPlan
{
    /** @var list<string> sections that are left out */
    #[ORM\Column(name: 'left_out', type: Types::JSON)]
    private array $off = ['methods', 'logbook'];

    /** @var list<array{section: string, text: string, print: bool, by: string, at: string, quote?: string}> */
    #[ORM\Column(type: Types::JSON)]
    private array $comments = [];

    public function __construct(
        #[ORM\Id, ORM\OneToOne(fetch: 'EAGER'), ORM\JoinColumn(name: 'study_id', nullable: false, onDelete: 'CASCADE')]
        private Study $study,
    ) {
    }

    public function study(): Study
    {
        return $this->study;
    }

    /** @return list<string> */
    public function off(): array
    {
        return $this->off;
    }

    /** @return list<array{section: string, text: string, print: bool, by: string, at: string, quote?: string}> */
    public function comments(): array
    {
        return $this->comments;
    }

    /**
     * @return list<array{section: string, text: string, print: bool, by: string, at: string, quote?: string}> those that the files print
     */
    public function printed(): array
    {
        return array_values(array_filter($this->comments, static fn (array $c): bool => $c['print']));
    }

    /**
     * @param list<string>                                                                                    $off
     * @param list<array{section: string, text: string, print: bool, by: string, at: string, quote?: string}> $comments
     */
    public function change(array $off, array $comments): void
    {
        [$this->off, $this->comments] = [$off, $comments];
    }
}
