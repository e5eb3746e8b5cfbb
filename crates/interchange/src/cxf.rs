//! CxF/X (ISO 17972-1, CxF version 3): XML objects with reflectance spectra or CIE Lab.
//!
//! Of every `Object` the first `ReflectanceSpectrum` is read, or else the first `ColorCIELab`. The colour specification
//! it refers to states the start and step of a spectrum, the illuminant and the observer.

use std::{collections::HashMap, io::Cursor};

use quick_xml::{
    Reader, Writer,
    events::{BytesDecl, BytesEnd, BytesStart, BytesText, Event},
};
use warm_blend_learn::{Measured, Source};
use warm_blend_spectral::wavelength;

use crate::{
    sample::{BadFile, MAKER, Rows, Sample, Samples, Told, Viewing, curve},
    text::{enough, number},
};

const NAMESPACE: &str = "http://colorexchangeformat.com/CxF3-core";
/// Elements within each other: no honest file has more.
const DEEPEST: usize = 64;

#[derive(Debug, Default, Clone)]
struct Specification {
    start: Option<f64>,
    step: Option<f64>,
    illuminant: String,
    observer: String,
}

#[derive(Debug, Default)]
struct Object {
    name: String,
    line: usize,
    spectrum: Option<Curve>,
    lab: [Option<f64>; 3],
    lab_specification: String,
    /// What cannot be read of it, and in which line.
    wrong: Option<(usize, String)>,
}

#[derive(Debug, Default)]
struct Curve {
    start: Option<f64>,
    step: Option<f64>,
    specification: String,
    values: Vec<f64>,
    line: usize,
}

/// True if the file was written by [`cxf()`] of any version.
pub(crate) fn is_ours(text: &str) -> bool {
    let mut reader = Reader::from_str(text);
    let mut creator = false;
    loop {
        match reader.read_event() {
            Ok(Event::Start(start)) => match local(start.name().as_ref()).as_str() {
                "Creator" => creator = true,
                "Resources" => return false,
                _ => creator = false,
            },
            Ok(Event::Text(text)) if creator && text.trim() == MAKER => return true,
            Ok(Event::End(_)) => creator = false,
            Ok(Event::Eof) | Err(_) => return false,
            Ok(_) => {}
        }
    }
}

pub(crate) fn read(text: &str, told: Told) -> Result<Rows, BadFile> {
    let mut reader = Reader::from_str(text);
    let mut lines = Lines { text, at: 0, line: 1 };
    let mut stack: Vec<String> = Vec::new();
    let mut specifications: HashMap<String, Specification> = HashMap::new();
    let mut specification: Option<(String, Specification)> = None;
    let mut objects: Vec<Object> = Vec::new();
    let mut curve_now: Option<Curve> = None;
    let mut words = String::new();
    loop {
        let event = reader.read_event();
        let line = lines.at(reader.buffer_position());
        let event = event.map_err(|error| BadFile::at(line, format!("invalid XML: {error}")))?;
        let (start, empty) = match &event {
            Event::Start(start) => (Some(start), false),
            Event::Empty(start) => (Some(start), true),
            _ => (None, false),
        };
        if let Some(start) = start {
            let name = local(start.name().as_ref());
            let attribute = |wanted: &str| attribute(start, wanted);
            let numeric = |wanted: &str| attribute(wanted).and_then(|text| number(&text, false));
            match name.as_str() {
                "ColorSpecification" if within(&stack, "ColorSpecificationCollection") => {
                    specification = Some((attribute("Id").unwrap_or_default(), Specification::default()));
                }
                "WavelengthRange" => {
                    if let Some((_, specification)) = &mut specification {
                        specification.start = numeric("StartWL");
                        specification.step = numeric("Increment");
                    }
                }
                "Object" => {
                    enough(objects.len(), line)?;
                    objects.push(Object {
                        name: attribute("Name").unwrap_or_default(),
                        line,
                        ..Object::default()
                    });
                }
                "ReflectanceSpectrum" => {
                    curve_now = Some(Curve {
                        start: numeric("StartWL"),
                        step: numeric("Increment"),
                        specification: attribute("ColorSpecification").unwrap_or_default(),
                        values: Vec::new(),
                        line,
                    });
                }
                "ColorCIELab" => {
                    if let Some(object) = objects.last_mut() {
                        object.lab_specification = attribute("ColorSpecification").unwrap_or_default();
                    }
                }
                _ => {}
            }
            words.clear();
            if !empty {
                stack.push(name);
            }
            if stack.len() > DEEPEST {
                return Err(BadFile::at(line, "not a CxF file: elements are nested too deep"));
            }
        }
        match event {
            Event::Text(text) => {
                words.push_str(&text);
            }
            Event::End(_) => {
                let Some(name) = stack.pop() else { continue };
                match name.as_str() {
                    "ReflectanceSpectrum" => {
                        if let (Some(mut curve), Some(object)) = (curve_now.take(), objects.last_mut()) {
                            let value = |word| {
                                let read = number(word, false);
                                read.ok_or_else(|| (line, format!("“{}” is not a number", short(word))))
                            };
                            match words.split_whitespace().map(value).collect() {
                                Ok(values) => {
                                    curve.values = values;
                                    object.spectrum.get_or_insert(curve);
                                }
                                Err(wrong) => object.wrong = Some(wrong),
                            }
                        }
                    }
                    "L" | "A" | "B" if within(&stack, "ColorCIELab") => {
                        let i = if name == "L" { 0 } else { 1 + usize::from(name == "B") };
                        match (number(&words, false), objects.last_mut()) {
                            (Some(value), Some(object)) => {
                                object.lab[i].get_or_insert(value);
                            }
                            (None, Some(object)) => {
                                let what = format!("{name} is “{}”, not a number", short(&words));
                                object.wrong = Some((line, what));
                            }
                            (_, None) => {}
                        }
                    }
                    "Illuminant" | "Observer" => {
                        if let Some((_, specification)) = &mut specification {
                            let slot = if name == "Observer" {
                                &mut specification.observer
                            } else {
                                &mut specification.illuminant
                            };
                            *slot = words.trim().to_owned();
                        }
                    }
                    "ColorSpecification" => {
                        if let Some((id, specification)) = specification.take() {
                            specifications.insert(id, specification);
                        }
                    }
                    _ => {}
                }
                words.clear();
            }
            Event::Eof => break,
            _ => {}
        }
    }
    if let Some(open) = stack.last() {
        return Err(BadFile::at(lines.line, format!("incomplete file: <{open}> is not closed")));
    }
    let mut rows = Rows::default();
    for object in objects {
        let name = object.name.clone();
        rows.take(&name, object.sample(&specifications, told))?;
    }
    rows.or_none("no reflectance spectrum or CIE Lab in this file")
}

impl Object {
    fn sample(
        self,
        specifications: &HashMap<String, Specification>,
        told: Told,
    ) -> Result<Option<Sample>, BadFile> {
        let known = |id: &str| {
            specifications.get(id).or_else(|| specifications.values().next()).cloned().unwrap_or_default()
        };
        if let Some((line, what)) = self.wrong {
            return Err(BadFile::at(line, what));
        }
        let mut notes = Vec::new();
        let measured = match (self.spectrum, self.lab) {
            (Some(spectrum), _) => {
                let specification = known(&spectrum.specification);
                let start = spectrum.start.or(specification.start).ok_or_else(|| {
                    BadFile::at(spectrum.line, "the spectrum has no start wavelength (StartWL)")
                })?;
                let step = spectrum.step.or(specification.step).unwrap_or(10.0);
                let points: Vec<(f64, f64)> =
                    spectrum.values.iter().enumerate().map(|(i, r)| (start + step * i as f64, *r)).collect();
                Measured::spectrum(curve(spectrum.line, &points, told, &mut notes)?)
            }
            (None, [Some(l), Some(a), Some(b)]) => {
                let specification = known(&self.lab_specification);
                let viewing = Viewing::named(&specification.illuminant, &specification.observer)
                    .map_err(|what| BadFile::at(self.line, what))?;
                Measured::Colour(viewing.to_daylight([l, a, b], self.line, &mut notes)?)
            }
            _ => return Ok(None),
        };
        let name = if self.name.trim().is_empty() { format!("sample {}", self.line) } else { self.name };
        Ok(Some(Sample { name, line: self.line, measured, source: Source::Reader, notes }))
    }
}

/// Counts lines as the reader goes on.
struct Lines<'a> {
    text: &'a str,
    at: usize,
    line: usize,
}

impl Lines<'_> {
    fn at(&mut self, position: u64) -> usize {
        let to = usize::try_from(position).unwrap_or(usize::MAX).min(self.text.len());
        if to > self.at {
            self.line += self.text.as_bytes()[self.at..to].iter().filter(|byte| **byte == b'\n').count();
            self.at = to;
        }
        self.line
    }
}

fn within(stack: &[String], name: &str) -> bool {
    stack.iter().any(|open| open == name)
}

fn local(name: &str) -> String {
    name.rsplit(':').next().unwrap_or("").to_owned()
}

fn attribute(start: &BytesStart<'_>, wanted: &str) -> Option<String> {
    start.attributes().flatten().find(|attribute| local(attribute.key.as_ref()) == wanted).map(|attribute| {
        quick_xml::escape::unescape(&attribute.value)
            .map_or_else(|_| attribute.value.clone().into_owned(), |text| text.into_owned())
    })
}

fn short(text: &str) -> String {
    text.trim().chars().take(40).collect()
}

/// Writes samples as CxF 3: spectra if known, and CIE Lab (D65, 2°) for all.
pub fn cxf(what: Samples, samples: &[(String, Measured)], now: &str) -> Result<Vec<u8>, std::io::Error> {
    let mut out = Writer::new_with_indent(Cursor::new(Vec::new()), b' ', 2);
    out.write_event(Event::Decl(BytesDecl::new("1.0", Some("UTF-8"), None)))?;
    let mut root = BytesStart::new("cc:CxF");
    root.push_attribute(("xmlns:cc", NAMESPACE));
    out.write_event(Event::Start(root))?;
    out.create_element("cc:FileInformation").write_inner_content(|out| {
        out.create_element("cc:Creator").write_text_content(BytesText::new(MAKER))?;
        out.create_element("cc:CreationDate").write_text_content(BytesText::new(now))?;
        out.create_element("cc:Description").write_text_content(BytesText::new(what.statement()))?;
        Ok(())
    })?;
    out.create_element("cc:Resources").write_inner_content(|out| {
        out.create_element("cc:ObjectCollection").write_inner_content(|out| {
            for (i, (name, measured)) in samples.iter().enumerate() {
                object(out, i, name, measured)?;
            }
            Ok(())
        })?;
        out.create_element("cc:ColorSpecificationCollection").write_inner_content(specification)?;
        Ok(())
    })?;
    out.write_event(Event::End(BytesEnd::new("cc:CxF")))?;
    Ok(out.into_inner().into_inner())
}

type Out = Writer<Cursor<Vec<u8>>>;

fn object(out: &mut Out, i: usize, name: &str, measured: &Measured) -> std::io::Result<()> {
    // What XML 1.0 (section 2.2) has no place for.
    let plain: String =
        name.chars().filter(|c| !c.is_control() && !matches!(c, '\u{fffe}' | '\u{ffff}')).collect();
    let id = format!("c{}", i + 1);
    out.create_element("cc:Object")
        .with_attribute(("ObjectType", "Standard"))
        .with_attribute(("Name", plain.as_str()))
        .with_attribute(("Id", id.as_str()))
        .write_inner_content(|out| {
            out.create_element("cc:CreationDate")
                .write_text_content(BytesText::new("2026-01-01T00:00:00Z"))?;
            out.create_element("cc:ColorValues").write_inner_content(|out| {
                if let Measured::Spectrum(curve) = measured {
                    let values: Vec<String> = curve.bands().iter().map(|r| format!("{r:.6}")).collect();
                    let start = wavelength(0).to_string();
                    out.create_element("cc:ReflectanceSpectrum")
                        .with_attribute(("ColorSpecification", "s1"))
                        .with_attribute(("StartWL", start.as_str()))
                        .write_text_content(BytesText::new(&values.join(" ")))?;
                }
                let lab = measured.lab();
                out.create_element("cc:ColorCIELab")
                    .with_attribute(("ColorSpecification", "s1"))
                    .write_inner_content(|out| {
                        for (tag, value) in [("cc:L", lab.l), ("cc:A", lab.a), ("cc:B", lab.b)] {
                            out.create_element(tag)
                                .write_text_content(BytesText::new(&format!("{value:.4}")))?;
                        }
                        Ok(())
                    })?;
                Ok(())
            })?;
            Ok(())
        })?;
    Ok(())
}

fn specification(out: &mut Out) -> std::io::Result<()> {
    out.create_element("cc:ColorSpecification").with_attribute(("Id", "s1")).write_inner_content(|out| {
        out.create_element("cc:TristimulusSpec").write_inner_content(|out| {
            for (tag, value) in
                [("cc:Illuminant", "D65"), ("cc:Observer", "2_Degree"), ("cc:Method", "E308_Table5")]
            {
                out.create_element(tag).write_text_content(BytesText::new(value))?;
            }
            Ok(())
        })?;
        out.create_element("cc:MeasurementSpec").write_inner_content(|out| {
            out.create_element("cc:MeasurementType")
                .write_text_content(BytesText::new("Spectrum_Reflectance"))?;
            out.create_element("cc:GeometryChoice").write_inner_content(|out| {
                out.create_element("cc:SingleAngle")
                    .with_attribute(("SingleAngleConfiguration", "Annular"))
                    .write_inner_content(|out| {
                        out.create_element("cc:IlluminationAngle")
                            .write_text_content(BytesText::new("45"))?;
                        out.create_element("cc:MeasurementAngle").write_text_content(BytesText::new("0"))?;
                        Ok(())
                    })?;
                Ok(())
            })?;
            out.create_element("cc:WavelengthRange")
                .with_attribute(("StartWL", "380"))
                .with_attribute(("Increment", "10"))
                .write_empty()?;
            Ok(())
        })?;
        Ok(())
    })?;
    Ok(())
}
