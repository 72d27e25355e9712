<?php

$finder = PhpCsFixer\Finder::create()->in([__DIR__.'/core/src', __DIR__.'/core/tests', __DIR__.'/src', __DIR__.'/tests', __DIR__.'/migrations', __DIR__.'/benchmarks', __DIR__.'/packages']);

return (new PhpCsFixer\Config())
    ->setRiskyAllowed(true)
    ->setRules(['@Symfony' => true, '@Symfony:risky' => true, 'declare_strict_types' => true, 'phpdoc_to_comment' => false, 'single_line_throw' => false, 'phpdoc_align' => ['align' => 'vertical'], 'concat_space' => ['spacing' => 'none'], 'single_line_empty_body' => false, 'phpdoc_separation' => true, 'phpdoc_summary' => false])
    ->setFinder($finder);
