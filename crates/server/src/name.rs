//! The core's fixed vocabularies on the wire and in the database: by name, and refused by name.

use std::borrow::Cow;

use owl_core::named::Named;
use serde::{Deserialize, Deserializer, Serialize, Serializer};
use utoipa::__dev::ComposeSchema;
use utoipa::ToSchema;
use utoipa::openapi::RefOr;
use utoipa::openapi::schema::{ObjectBuilder, Schema, Type};

use crate::error::ApiError;

/// A member of a vocabulary, written as its name.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Name<T>(pub T);

impl<T: Named> Serialize for Name<T> {
    fn serialize<S: Serializer>(&self, s: S) -> Result<S::Ok, S::Error> {
        s.serialize_str(self.0.name())
    }
}

impl<'de, T: Named> Deserialize<'de> for Name<T> {
    fn deserialize<D: Deserializer<'de>>(d: D) -> Result<Self, D::Error> {
        let name = Cow::<'de, str>::deserialize(d)?;
        T::from_name(&name).map(Self).map_err(serde::de::Error::custom)
    }
}

// Through the trait that utoipa's own types implement: a bare `PartialSchema` could not stand inside
// an option or a list.
impl<T: Named> ComposeSchema for Name<T> {
    fn compose(_: Vec<RefOr<Schema>>) -> RefOr<Schema> {
        ObjectBuilder::new()
            .schema_type(Type::String)
            .enum_values(Some(T::ALL.iter().map(|m| m.name())))
            .build()
            .into()
    }
}

impl<T: Named> ToSchema for Name<T> {
    /// `resistor family` becomes `ResistorFamily`.
    fn name() -> Cow<'static, str> {
        T::NOUN
            .split(' ')
            .flat_map(|w| {
                let (head, tail) = w.split_at(1);
                [head.to_uppercase(), tail.to_owned()]
            })
            .collect::<String>()
            .into()
    }
}

macro_rules! names {
    ($($alias:ident = $($path:ident)::+;)+) => {
        $(#[doc = "A member of one of the core's vocabularies, by its name."]
        pub type $alias = Name<owl_core::$($path)::+>;)+
    };
}

names! {
    KindName = network::Kind;
    SeriesName = preferred::Series;
    OutcomeName = verdict::Outcome;
    SchemeName = marking::Scheme;
    CodeName = marking::Code;
    ColourName = marking::Colour;
    VoltsKindName = marking::VoltsKind;
    SafetyClassName = part::SafetyClass;
    AgainstName = tray::installed::Against;
    CardName = marking::table::Card;
    BetweenName = marking::disagreement::Between;
    ExplanationName = marking::disagreement::Explanation;
    PartKindName = part::PartKind;
    FamilyName = part::Family;
    MadeOfName = part::MadeOf;
    PositionName = part::Position;
    StatusName = tray::Status;
    StateName = reading::State;
    ModeName = reading::Mode;
    ReadQuantityName = reading::ReadQuantity;
    InstrumentKindName = reading::InstrumentKind;
    TesterSettingName = reading::Setting;
    PitfallName = reading::pitfall::Pitfall;
    QuantityName = quantity::Quantity;
    ConditionName = drawers::Condition;
    RarityName = substitute::Rarity;
    LeadsName = drawers::Leads;
    ArrangementName = supply::rectifier::Arrangement;
    RectifierKindName = supply::rectifier::RectifierKind;
    LookName = part::VisualSign;
    FactName = part::Fact;
    LimitRuleName = verdict::LimitRule;
    LeakageRuleName = verdict::LeakageRule;
    PolicyNumberName = verdict::PolicyNumber;
    SchoolName = verdict::School;
    ReformWayName = reform::run::ReformMode;
    ReformCommandName = reform::run::Command;
    EndingName = reform::run::Ending;
    WeightName = reform::run::Weight;
    ClipName = reform::bench::Clip;
    MeterFaultName = reform::bench::MeterFault;
    CurveLookName = reform::look::CurveShape;
    DeviceKindName = transistor::DeviceKind;
    PolarityName = transistor::Polarity;
    MaterialName = transistor::Material;
    PowerReferenceName = transistor::device::PowerReference;
    CaseLeadName = transistor::device::CaseLead;
    SureName = transistor::device::Sure;
    LeadName = transistor::package::Lead;
    MountName = transistor::package::Mount;
    ShapeName = transistor::package::Shape;
    WhatName = transistor::identify::What;
    HealthName = transistor::identify::Health;
    ToldByName = transistor::identify::ToldBy;
    FurtherName = transistor::identify::Further;
    DiodeKindName = transistor::diode_kind::DiodeKind;
    DiodeHealthName = transistor::diode_kind::DiodeHealth;
    StageName = transistor::circuit::Stage;
    LimitStateName = transistor::equivalent::LimitState;
    LimitNameName = transistor::equivalent::LimitName;
    FitnessName = transistor::equivalent::Fitness;
    LeadFitName = transistor::pin_map::LeadFit;
    GroupSizeName = transistor::pairs::GroupSize;
    DiodeLimitNameName = transistor::diode_equivalent::DiodeLimitName;
    DiodeFamilyName = part::DiodeFamily;
    DiodeJobName = transistor::diode_device::DiodeJob;
    AfterCheckName = transistor::after::Check;
    CheckKindName = transistor::after::CheckKind;
    InspectionLookName = transistor::inspect::InspectionItem;
    LookKindName = transistor::inspect::LookKind;
    SeenName = transistor::inspect::Seen;
    SignWeightName = transistor::inspect::SignWeight;
    InspectionVerdictName = transistor::inspect::InspectionVerdict;
    FeedKindName = feed::FeedKind;
    FaultKindName = feed::FaultKind;
    ChangeKindName = change::ChangeKind;
    LampStoryName = first_power::LampStory;
    PowerSignName = first_power::PowerSign;
    PowerAdviceName = first_power::PowerAdvice;
    SenseName = first_power::Sense;
    ChartStatusName = chart::ChartStatus;
    FoundName = search::Found;
    RoundKindName = plan::RoundKind;
    SetClassName = caution::SetClass;
    StepName = caution::Step;
}

/// The member that a row of the database names.
///
/// # Errors
/// [`ApiError::Internal`]: a constraint of the database should have made it impossible.
pub fn stored<T: Named>(name: &str) -> Result<T, ApiError> {
    T::from_name(name).map_err(|e| ApiError::Internal(format!("stored row: {e}")))
}
