<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Logistic;

use Dokimos\Core\Math\Distribution\ChiSquare;

/** What the fit says about itself on its own training rows. Definitions: docs/methods/logistic-regression.md. */
final readonly class LogisticFigures
{
    public function __construct(
        public int $rowsTotal,
        public int $rowsUsed,
        public int $positives,
        public float $weightSum,
        public float $logLikelihood,
        public float $nullLogLikelihood,
        public int $parameters,
        public int $steps,
    ) {
    }

    /** @return array<string, int|float|null> */
    public function toArray(): array
    {
        $n = $this->weightSum;
        $coxSnell = 1.0 - exp(2.0 * ($this->nullLogLikelihood - $this->logLikelihood) / $n);
        $lr = 2.0 * ($this->logLikelihood - $this->nullLogLikelihood);

        return [
            'rows_total' => $this->rowsTotal,
            'rows_used' => $this->rowsUsed,
            'positives' => $this->positives,
            'parameters' => $this->parameters,
            'weight_sum' => $this->weightSum,
            'steps' => $this->steps,
            'log_likelihood' => $this->logLikelihood,
            'deviance' => -2.0 * $this->logLikelihood,
            'null_log_likelihood' => $this->nullLogLikelihood,
            'null_deviance' => -2.0 * $this->nullLogLikelihood,
            'aic' => -2.0 * $this->logLikelihood + 2.0 * $this->parameters,
            'bic' => -2.0 * $this->logLikelihood + $this->parameters * log($n),
            'mcfadden_r2' => 1.0 - $this->logLikelihood / $this->nullLogLikelihood,
            'cox_snell_r2' => $coxSnell,
            'nagelkerke_r2' => $coxSnell / (1.0 - exp(2.0 * $this->nullLogLikelihood / $n)),
            'lr_chi2' => $lr,
            'lr_df' => $this->parameters - 1,
            'lr_p' => $this->parameters > 1 ? (new ChiSquare($this->parameters - 1))->upper(max(0.0, $lr)) : null,
        ];
    }

    /** @param array<string, int|float|null> $data */
    public static function fromArray(array $data): self
    {
        return new self((int) $data['rows_total'], (int) $data['rows_used'], (int) $data['positives'], (float) $data['weight_sum'], (float) $data['log_likelihood'], (float) $data['null_log_likelihood'], (int) $data['parameters'], (int) $data['steps']);
    }
}
