<?php

declare(strict_types=1);

namespace App\TakeAway;

/** What a trial can be taken away as. */
final readonly class TakeAwayView
{
    /**
     * @param list<FormView>   $forms
     * @param list<string>     $cannot  why it cannot be written out; empty where it can
     * @param bool             $draft   whether nobody has approved the trial
     * @param list<TakenView>  $taken   the newest first
     * @param list<string>     $inputs  columns that it asks for
     * @param list<string>     $company tables of the company database that ships with the app
     * @param list<InsideView> $inside  tables scored where they lie, the newest first
     */
    public function __construct(
        public array $forms,
        public array $cannot,
        public bool $draft,
        public array $taken,
        public array $inputs,
        public array $company,
        public array $inside,
    ) {
    }
}
